/** A message as it is meant, and as bytes that go over the line (RFC 5322, MIME). */
import MailComposer from "nodemailer/lib/mail-composer";
import { flowText } from "#core/markup/index.ts";

/** A message ready to go. Bodies are UTF-8. */
export interface Message {
  readonly from: { readonly name: string; readonly address: string };
  readonly to: string;
  readonly replyTo: string | null;
  readonly subject: string;
  readonly html: Buffer | string;
  /** Merged; where its lines end is not said yet. */
  readonly text: string;
  /** The language it is written in (BCP 47). */
  readonly lang: string;
  /** Without angle brackets. */
  readonly messageId: string;
  readonly date: Date;
  /** Return address of the envelope. */
  readonly returnPath: string;
  readonly unsubscribe: { readonly address: string; readonly oneClick: boolean } | null;
  readonly listId: string | null;
}

/** What a connection hands over. */
export interface Finished {
  /** Return address and receiver of the envelope (RFC 5321, 3.3). */
  readonly from: string;
  readonly to: string;
  readonly bytes: Buffer;
}

/**
 * Words of a reader that look like an encoded word (RFC 2047) would be read as what is coded in them. With a
 * word joiner in between they are no longer ASCII: the header is encoded as a whole, and shows them as written.
 */
const asWritten = (words: string): string => words.replaceAll("=?", "=\u2060?");

/** Makes the bytes of a message. */
export async function finish(message: Message): Promise<Finished> {
  const { from, unsubscribe, listId } = message;
  const { text, delsp } = flowText(message.text);
  const bytes = await new MailComposer({
    from: { name: asWritten(from.name), address: from.address },
    to: message.to,
    replyTo: message.replyTo ?? undefined,
    subject: asWritten(message.subject),
    // Text first, as the poorer of the two (RFC 2046, 5.1.4).
    alternatives: [
      {
        contentType: `text/plain; charset=utf-8; format=flowed${delsp ? "; delsp=yes" : ""}`,
        content: text,
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
    headers: {
      // RFC 3282.
      "Content-Language": message.lang,
      ...(listId && { "List-ID": `<${listId}>` }),
      ...(unsubscribe && {
        "List-Unsubscribe": { prepared: true, value: `<${unsubscribe.address}>` },
        // RFC 8058: one POST to that address is enough.
        ...(unsubscribe.oneClick && { "List-Unsubscribe-Post": "List-Unsubscribe=One-Click" }),
      }),
    },
    disableFileAccess: true,
    disableUrlAccess: true,
  })
    .compile()
    .build();
  return { from: message.returnPath, to: message.to, bytes };
}
