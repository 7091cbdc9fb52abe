/** A message as it is meant, and what it is made of when it goes: fields of its header, and a body (RFC 5322, MIME). */
import { flowText } from "../markup/index.ts";
import { type Coded, coded } from "./body.ts";
import {
  addressSpec,
  dateSpec,
  field,
  fileName,
  type Mailbox,
  mailbox,
  unstructured,
} from "./header.ts";

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
  /** Files that come with it; none where they are left out. */
  readonly attachments?: readonly Attachment[];
}

/** A file as it goes with a message: coded once for all of them. */
export interface Attachment {
  readonly name: string;
  /** Its media type (RFC 2046), such as application/pdf. */
  readonly type: string;
  readonly coded: Coded;
}

export interface Assembled {
  /** Fields in their order, each with its name and its end of line. */
  readonly fields: readonly (readonly [name: string, text: string])[];
  /** What follows the empty line. Relaxed canonicalization changes nothing of it. */
  readonly body: readonly Uint8Array[];
}

const encoder = new TextEncoder();
/** Stand in nothing that is coded (RFC 2045, 6.7). */
const BOUNDARY = "=_septima_alternative";
const AROUND = "=_septima_mixed";

function part(
  boundary: string,
  fields: readonly string[],
  { encoding, bytes }: Coded,
): Uint8Array[] {
  const lines = [`--${boundary}`, ...fields, `Content-Transfer-Encoding: ${encoding}`, "", ""];
  return [encoder.encode(lines.join("\r\n")), bytes, encoder.encode("\r\n")];
}

const heads = new WeakMap<Attachment, readonly string[]>();
/** The fields of a file's part; made once, as the file goes with many messages. */
function fieldsOfFile(file: Attachment): readonly string[] {
  let fields = heads.get(file);
  if (!fields) {
    fields = [
      `Content-Type: ${file.type}`,
      `Content-Disposition: attachment; ${fileName(file.name)}`,
    ];
    heads.set(file, fields);
  }
  return fields;
}

/** The parts of a message around its alternatives, where files come with it (RFC 2046, 5.1.3). */
function mixed(alternatives: readonly Uint8Array[], files: readonly Attachment[]): Uint8Array[] {
  const head = `--${AROUND}\r\nContent-Type: multipart/alternative; boundary="${BOUNDARY}"\r\n\r\n`;
  return [
    encoder.encode(head),
    ...alternatives,
    ...files.flatMap((file) => part(AROUND, fieldsOfFile(file), file.coded)),
    encoder.encode(`--${AROUND}--\r\n`),
  ];
}

/** What a message is made of. */
export function assemble(message: Message): Assembled {
  const { unsubscribe, listId, html, attachments = [] } = message;
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
  const type =
    attachments.length > 0
      ? `multipart/mixed; boundary="${AROUND}"`
      : `multipart/alternative; boundary="${BOUNDARY}"`;
  fields.push(["Content-Type", type]);
  const alternatives = [
    // Text first, as the poorer of the two (RFC 2046, 5.1.4).
    ...part(BOUNDARY, [`Content-Type: ${flowed}`], coded(text)),
    ...part(
      BOUNDARY,
      ["Content-Type: text/html; charset=utf-8"],
      typeof html === "string" ? coded(html) : html,
    ),
    encoder.encode(`--${BOUNDARY}--\r\n`),
  ];
  return {
    fields: fields.map(([name, value]) => [name, field(name, value)]),
    body: attachments.length > 0 ? mixed(alternatives, attachments) : alternatives,
  };
}
