/** A mail service that takes everything and keeps nothing, in a process of its own. Prints its port. */
import type { AddressInfo } from "node:net";
import { SMTPServer } from "smtp-server";

const server = new SMTPServer({
  disabledCommands: ["AUTH", "STARTTLS"],
  logger: false,
  onData(stream, _session, done) {
    stream.resume();
    stream.on("end", () => done());
  },
});
server.listen(0, "127.0.0.1", () => {
  console.log((server.server.address() as AddressInfo).port);
});
