/**
 * Mail that comes in: bounces that come late, complaints, and people who leave by mail. An SMTP server that takes
 * nothing but what is addressed to a message of ours.
 */
import type { AddressInfo } from "node:net";
import { simpleParser } from "mailparser";
import { SMTPServer } from "smtp-server";
import { failureIn, isComplaint } from "#core/delivery/index.ts";
import { LIMITS } from "#core/limits.ts";
import { leave } from "../audience/leaving.ts";
import type { Config } from "../config.ts";
import { StartError } from "../db/open.ts";
import type { Services } from "../services.ts";
import { getContact } from "../store/contacts.ts";
import { bounceLate, complain } from "../store/launches/late.ts";
import { getRecipient } from "../store/launches/progress.ts";
import { type Returned, readReturn } from "./return-address.ts";

export interface Returns {
  readonly port: number;
  close(): Promise<void>;
}

type Inside = Pick<Services, "database" | "clock" | "signer" | "log">;

/** The text of a part of a report. */
type Part = { readonly contentType: string; readonly content: Buffer };
const partOf = (parts: readonly Part[], type: string) =>
  parts.find(({ contentType }) => contentType.toLowerCase() === type)?.content.toString("utf8");

/** What came back for a message: the reports it is made of say whether it counts, words to people do not. */
async function takeBack({ database, clock }: Inside, recipient: number, source: Buffer) {
  const { attachments } = await simpleParser(source, {
    skipHtmlToText: true,
    skipTextToHtml: true,
    skipImageLinks: true,
    maxHtmlLengthToParse: 0,
    keepDeliveryStatus: true,
  });
  const parts = attachments as readonly Part[];
  const now = clock.now();
  const feedback = partOf(parts, "message/feedback-report");
  if (feedback !== undefined) {
    if (isComplaint(feedback)) await complain(database, recipient, now);
    return;
  }
  const status = partOf(parts, "message/delivery-status");
  const failure = status === undefined ? null : failureIn(status);
  if (!failure) return;
  const { verdict, reply } = failure;
  const gone = verdict.kind === "reader" && verdict.gone;
  await bounceLate(
    database,
    recipient,
    { reply: reply.slice(0, LIMITS.replyKept), soft: !gone },
    now,
  );
}

async function take(services: Inside, { kind, recipient }: Returned, source: Buffer) {
  const { database, clock } = services;
  if (kind === "bounce") return takeBack(services, recipient, source);
  await database.tx(async (sql) => {
    const found = await getRecipient(sql, recipient);
    if (!found) return;
    // The address they have now, where it is another.
    const contact = found.contactId === null ? null : await getContact(sql, found.contactId);
    const email = contact?.email ?? found.email;
    const leaving = { email, contactId: contact?.id ?? null, recipient: found, source: "mail" };
    await leave(sql, leaving, clock.now());
  });
}

export async function startReturns(
  services: Inside,
  { host }: Pick<Config, "host">,
  port: number,
): Promise<Returns> {
  const { signer, log } = services;
  const server = new SMTPServer({
    disabledCommands: ["AUTH", "STARTTLS"],
    size: LIMITS.returnBytes,
    maxClients: LIMITS.returnClients,
    logger: false,
    onRcptTo({ address }, _session, done) {
      if (readReturn(signer, address)) return done();
      done(Object.assign(new Error("5.1.1 There is no such mailbox here"), { responseCode: 550 }));
    },
    onData(stream, session, done) {
      (async () => {
        const chunks: Buffer[] = [];
        for await (const chunk of stream) if (!stream.sizeExceeded) chunks.push(chunk as Buffer);
        if (stream.sizeExceeded) {
          throw Object.assign(new Error("5.3.4 This is too much"), { responseCode: 552 });
        }
        const source = Buffer.concat(chunks);
        for (const { address } of session.envelope.rcptTo) {
          await take(services, readReturn(signer, address)!, source);
        }
      })().then(
        () => done(),
        (error) => {
          if (error.responseCode) return done(error);
          log.warn({ err: error }, "mail that came in was not taken");
          // It is brought again.
          done(Object.assign(new Error("4.3.0 Try again later"), { responseCode: 451 }));
        },
      );
    },
  });
  server.on("error", (error) => log.warn({ err: error }, "the mail that comes in"));
  await new Promise<void>((ok, fail) => {
    server.once("error", () =>
      fail(new StartError(`Port ${port} for mail that comes in (SEPTIMA_RETURNS_PORT) is taken.`)),
    );
    server.listen(port, host, () => ok());
  });
  return {
    port: (server.server.address() as AddressInfo).port,
    close: () => new Promise((ok) => server.close(ok)),
  };
}
