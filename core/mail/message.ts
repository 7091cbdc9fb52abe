/** A message as it is meant, and what it is made of when it goes: fields of its header, and a body (RFC 5322, MIME). */
import { flowText } from "../markup/index.ts";
import { type Coded, coded } from "./body.ts";
import { addressSpec, dateSpec, field, type Mailbox, mailbox, unstructured } from "./header.ts";

/** A message ready to go. */
export interface Message {
  readonly from: Mailbox;
  readonly to: Mailbox;
  readonly replyTo: string | null;
  readonly subject: string;
  readonly html: Coded | string;
  /** Merged; where its lines end is not said yet. */
  readonly text: string;
  /** The language it is written in (BCP 47). */
  readonly lang: string;
  /** Without angle brackets. */
  readonly messageId: string;
  /** The same however often it is tried. */
  readonly date: Date;
  /** Return address of the envelope. */
  readonly returnPath: string;
  readonly unsubscribe: {
    /** One POST to it is enough (RFC 8058). */
    readonly address: string;
    /** Where a message does the same (RFC 2369); null where none is taken in. */
    readonly mail: string | null;
  } | null;
  readonly listId: string | null;
}

export interface Assembled {
  /** Fields in their order, each with its name and its end of line. */
  readonly fields: readonly (readonly [name: string, text: string])[];
  /** What follows the empty line. Relaxed canonicalization changes nothing of it. */
  readonly body: readonly Uint8Array[];
}

const encoder = new TextEncoder();
/** Stands in nothing that is coded (RFC 2045, 6.7). */
const BOUNDARY = "=_septima_alternative";

function part(type: string, { encoding, bytes }: Coded): Uint8Array[] {
  const head = `--${BOUNDARY}\r\nContent-Type: ${type}\r\nContent-Transfer-Encoding: ${encoding}\r\n\r\n`;
  return [encoder.encode(head), bytes, encoder.encode("\r\n")];
}

/** What a message is made of. */
export function assemble(message: Message): Assembled {
  const { unsubscribe, listId, html } = message;
  const { text, delsp } = flowText(message.text);
  const flowed = `text/plain; charset=utf-8; format=flowed${delsp ? "; delsp=yes" : ""}`;
  const fields: [string, string][] = [
    ["From", mailbox(message.from)],
    ["To", mailbox(message.to)],
    ["Subject", unstructured(message.subject)],
    ["Date", dateSpec(message.date)],
    ["Message-ID", `<${message.messageId}>`],
  ];
  if (message.replyTo) fields.push(["Reply-To", addressSpec(message.replyTo)]);
  // RFC 3282.
  fields.push(["Content-Language", message.lang]);
  if (listId) fields.push(["List-ID", `<${listId}>`]);
  if (unsubscribe) {
    const ways = [unsubscribe.address, ...(unsubscribe.mail ? [`mailto:${unsubscribe.mail}`] : [])];
    fields.push(["List-Unsubscribe", ways.map((one) => `<${one}>`).join(", ")]);
    fields.push(["List-Unsubscribe-Post", "List-Unsubscribe=One-Click"]);
  }
  fields.push(["MIME-Version", "1.0"]);
  fields.push(["Content-Type", `multipart/alternative; boundary="${BOUNDARY}"`]);
  return {
    fields: fields.map(([name, value]) => [name, field(name, value)]),
    body: [
      // Text first, as the poorer of the two (RFC 2046, 5.1.4).
      ...part(flowed, coded(text)),
      ...part("text/html; charset=utf-8", typeof html === "string" ? coded(html) : html),
      encoder.encode(`--${BOUNDARY}--\r\n`),
    ],
  };
}
