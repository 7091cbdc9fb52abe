/** Addresses with letters of any kind, at services that take them and at those that do not (RFC 6531). */
import type { AddressInfo } from "node:net";
import { SMTPServer } from "smtp-server";
import { afterEach, expect, it } from "vitest";
import { TEST_MAIL_KEYS } from "../testing/mail-keys.ts";
import { testMessage } from "../testing/message.ts";
import { createMailer, type Mailer } from "./mailer.ts";

let ends: (() => unknown)[] = [];
afterEach(async () => {
  for (const end of ends) await end();
  ends = [];
});

async function service(takes: boolean): Promise<Mailer> {
  const server = new SMTPServer({
    disabledCommands: ["AUTH", "STARTTLS"],
    hideSMTPUTF8: !takes,
    logger: false,
    onData(stream, _session, done) {
      stream.resume();
      stream.on("end", () => done());
    },
  });
  await new Promise<void>((ok) => server.listen(0, "127.0.0.1", () => ok()));
  const { port } = server.server.address() as AddressInfo;
  const mailer = createMailer(`smtp://127.0.0.1:${port}`, TEST_MAIL_KEYS);
  ends.push(
    () => mailer.close(),
    () => new Promise((ok) => server.close(() => ok(null))),
  );
  return mailer;
}
const message = (to: string, from = "news@larkmoor.example") =>
  testMessage({
    from: { name: "Larkmoor", address: from },
    to: { name: "", address: to },
    returnPath: from,
  });

it("goes to letters of any kind where the service takes them, and to any domain anywhere", async () => {
  const takes = await service(true);
  expect(await takes.send(message("zoë@bücher.example"))).toMatchObject({ state: "accepted" });
  const not = await service(false);
  expect(await not.send(message("zoe@bücher.example"))).toMatchObject({ state: "accepted" });
});

it("is about the reader alone where the service does not take their address, and others get theirs", async () => {
  const mailer = await service(false);
  expect(await mailer.send(message("zoë@larkmoor.example"))).toMatchObject({
    state: "refused",
    verdict: { kind: "reader", lasting: true, gone: false },
  });
  expect(await mailer.send(message("zoe@larkmoor.example"))).toMatchObject({ state: "accepted" });
});

it("is about the message where it is the sender's own address", async () => {
  const mailer = await service(false);
  expect(await mailer.send(message("a@x.example", "zoë@larkmoor.example"))).toMatchObject({
    state: "refused",
    verdict: { kind: "message", lasting: true },
  });
});
