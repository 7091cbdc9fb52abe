/**
 * A mail service that takes everything, in a process of its own. Prints its port. `PORT` asks for one; with `RECORD`, a
 * file, it writes the Message-ID of each message there before it says that it has it, a line for each.
 */
import { appendFileSync } from "node:fs";
import type { AddressInfo } from "node:net";
import { SMTPServer } from "smtp-server";

const { RECORD, PORT = "0" } = process.env;

const server = new SMTPServer({
  disabledCommands: ["AUTH", "STARTTLS"],
  logger: false,
  onData(stream, _session, done) {
    let head = "";
    stream.on("data", (chunk: Buffer) => {
      if (RECORD && head.length < 8_000) head += chunk.toString("latin1");
    });
    stream.on("end", () => {
      const id = /^Message-ID: <([^>]+)>/im.exec(head)?.[1];
      if (RECORD && id) appendFileSync(RECORD, `${id}\n`);
      done();
    });
  },
});
server.listen(Number(PORT), "127.0.0.1", () => {
  console.log((server.server.address() as AddressInfo).port);
});
