/**
 * The outbox: the mail service that ships with the application. A real SMTP server that delivers nowhere
 * and keeps what it got. Plain rules of the address: `bounce@…` is refused for good, `later@…` for now.
 */
import type { AddressInfo, Socket } from "node:net";
import { setTimeout as sleep } from "node:timers/promises";
import { simpleParser } from "mailparser";
import { SMTPServer, type SMTPServerSession } from "smtp-server";
import type { Clock } from "../clock.ts";
import type { Database } from "../db/database.ts";
import { keepMessage } from "../store/outbox.ts";
import type { OutboxMoods } from "./outbox-moods.ts";

/** How long a slow service takes for each message, ms. */
const SLOW_MS = 1_500;

export interface Outbox {
  readonly address: string;
  close(): Promise<void>;
}

const MESSAGE_BYTES = 25_000_000;

const returnPathOf = ({ envelope: { mailFrom } }: SMTPServerSession) =>
  mailFrom ? mailFrom.address : "";

/** What the outbox says to an address: null takes it. Plus-addressed variants are meant too. */
export function answerTo(address: string): { code: number; text: string } | null {
  const local = address.split("@")[0]!.toLowerCase();
  if (/^bounce([+.]|$)/.test(local)) {
    return { code: 550, text: "5.1.1 There is no such mailbox here" };
  }
  if (/^later([+.]|$)/.test(local)) {
    return { code: 451, text: "4.2.1 This mailbox is busy, try again later" };
  }
  return null;
}

async function readAll(stream: NodeJS.ReadableStream): Promise<Buffer> {
  const chunks: Buffer[] = [];
  for await (const chunk of stream) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks);
}

const refusal = (code: number, text: string) =>
  Object.assign(new Error(text), { responseCode: code });

export async function startOutbox(
  database: Database,
  clock: Clock,
  port: number,
  mood: OutboxMoods = { is: "well" },
): Promise<Outbox> {
  const { sql } = database;
  const cut = (session: SMTPServerSession) => {
    for (const connection of server.connections as Set<{
      session: SMTPServerSession;
      _socket: Socket;
    }>) {
      if (connection.session.id === session.id) connection._socket.destroy();
    }
  };
  const server: SMTPServer = new SMTPServer({
    disabledCommands: ["AUTH", "STARTTLS"],
    size: MESSAGE_BYTES,
    logger: false,
    onConnect(_session, done) {
      if (mood.is === "dead") return done(refusal(421, "4.3.2 The service is down"));
      done();
    },
    onRcptTo(to, session, done) {
      const answer =
        mood.is === "defers"
          ? { code: 450, text: "4.2.1 Put off, as it was told to" }
          : answerTo(to.address);
      if (!answer) return done();
      keepMessage(sql, {
        at: clock.now(),
        from: returnPathOf(session),
        to: to.address,
        subject: answer.text,
        messageId: "",
        outcome: answer.code >= 500 ? "refused" : "deferred",
        source: null,
      }).then(
        () => done(Object.assign(new Error(answer.text), { responseCode: answer.code })),
        (error) => done(error),
      );
    },
    onData(stream, session, done) {
      (async () => {
        const source = await readAll(stream);
        if (mood.is === "slow") await sleep(SLOW_MS);
        if (mood.is === "refuses") throw refusal(554, "5.7.1 Refused, as it was told to");
        if (mood.is === "cuts") return cut(session);
        // Only the headers matter here; bodies are read when somebody looks at the message.
        const parsed = await simpleParser(source.subarray(0, source.indexOf("\r\n\r\n") + 4));
        await keepMessage(sql, {
          at: clock.now(),
          from: parsed.from?.text ?? "",
          to: session.envelope.rcptTo.map((to) => to.address).join(", "),
          subject: parsed.subject ?? "",
          messageId: (parsed.messageId ?? "").replace(/^<|>$/g, ""),
          outcome: "accepted",
          // As whoever delivers it at last notes it (RFC 5321, 4.4).
          source: Buffer.concat([
            Buffer.from(`Return-Path: <${returnPathOf(session)}>\r\n`),
            source,
          ]),
        });
      })().then(
        () => done(null, "2.0.0 Kept in the outbox"),
        (error) => done(error),
      );
    },
  });
  server.on("error", () => {});
  await new Promise<void>((ok, fail) => {
    server.once("error", fail);
    server.listen(port, "127.0.0.1", ok);
  });
  const { port: actual } = server.server.address() as AddressInfo;
  return {
    address: `smtp://127.0.0.1:${actual}`,
    close: () => new Promise((ok) => server.close(() => ok())),
  };
}
