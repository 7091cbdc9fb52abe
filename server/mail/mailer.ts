/** Mail out, over SMTP (RFC 5321): to the outbox that ships with the application, or to a service. */
import { createTransport } from "nodemailer";
import { LIMITS } from "#core/limits.ts";

/** A message ready to go. Bodies are UTF-8. */
export interface Message {
  readonly from: { readonly name: string; readonly address: string };
  readonly to: string;
  readonly replyTo: string | null;
  readonly subject: string;
  readonly html: Buffer | string;
  /** Laid out as `format=flowed` (RFC 3676). */
  readonly text: string;
  /** Without angle brackets. */
  readonly messageId: string;
  readonly date: Date;
  /** Return address of the envelope. */
  readonly returnPath: string;
  readonly unsubscribe: { readonly address: string; readonly oneClick: boolean } | null;
  readonly listId: string | null;
}

export type HandOver =
  | { readonly state: "accepted" | "bounced" | "deferred"; readonly reply: string }
  /** Nothing was handed over: the service was not there. */
  | { readonly state: "waiting"; readonly reply: string }
  /** The connection broke after the message had gone: nobody knows. */
  | { readonly state: "unsure"; readonly reply: string };

export interface Mailer {
  send(message: Message): Promise<HandOver>;
  close(): void;
}

interface SmtpError extends Error {
  responseCode?: number;
  response?: string;
  command?: string;
}

export function createMailer(smtpAddress: string): Mailer {
  const transport = createTransport({
    url: smtpAddress,
    pool: true,
    maxConnections: LIMITS.sendParallel,
    maxMessages: Number.POSITIVE_INFINITY,
    ignoreTLS: new URL(smtpAddress).hostname === "127.0.0.1",
    disableFileAccess: true,
    disableUrlAccess: true,
  } as Parameters<typeof createTransport>[0]);
  return {
    async send(message) {
      const { unsubscribe, listId } = message;
      try {
        const info = await transport.sendMail({
          from: message.from,
          to: message.to,
          replyTo: message.replyTo ?? undefined,
          subject: message.subject,
          // Text first, as the poorer of the two (RFC 2046, 5.1.4).
          alternatives: [
            {
              contentType: "text/plain; charset=utf-8; format=flowed",
              content: message.text,
              contentTransferEncoding: "quoted-printable",
            },
            {
              contentType: "text/html; charset=utf-8",
              content: message.html,
              contentTransferEncoding: "quoted-printable",
            },
          ],
          messageId: `<${message.messageId}>`,
          date: message.date,
          envelope: { from: message.returnPath, to: message.to },
          headers: {
            ...(listId && { "List-ID": `<${listId}>` }),
            ...(unsubscribe && {
              "List-Unsubscribe": { prepared: true, value: `<${unsubscribe.address}>` },
              // RFC 8058: one POST to that address is enough.
              ...(unsubscribe.oneClick && {
                "List-Unsubscribe-Post": "List-Unsubscribe=One-Click",
              }),
            }),
          },
        });
        return { state: "accepted", reply: info.response };
      } catch (caught) {
        const error = caught as SmtpError;
        const reply = error.response ?? error.message;
        const code = error.responseCode ?? 0;
        if (code >= 500) return { state: "bounced", reply };
        if (code >= 400) return { state: "deferred", reply };
        return { state: error.command === "DATA" ? "unsure" : "waiting", reply };
      }
    },
    close: () => transport.close(),
  };
}
