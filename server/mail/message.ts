/** A message as bytes that go over the line. */
import { addressSpec, assemble, type Message } from "#core/mail/index.ts";
import type { MailKeys } from "./keys.ts";

export type { Message } from "#core/mail/index.ts";

/** What a connection hands over. */
export interface Finished {
  /** Return address and receiver of the envelope (RFC 5321, 3.3). */
  readonly from: string;
  readonly to: string;
  readonly bytes: Buffer;
}

const domainOf = (spec: string) => spec.slice(spec.lastIndexOf("@") + 1);

/** Makes the bytes of a message, signed for the domain of its sender. */
export function finish(message: Message, keys: MailKeys): Finished {
  const made = assemble(message);
  const domain = domainOf(addressSpec(message.from.address));
  const body = Buffer.concat([Buffer.from("\r\n"), ...made.body]);
  const rest = { fields: made.fields, body: [body.subarray(2)] };
  const signatures = keys.sign(rest, domain, message.date);
  const head = Buffer.from([...signatures, ...made.fields.map(([, text]) => text)].join(""));
  return {
    from: addressSpec(message.returnPath),
    to: addressSpec(message.to.address),
    bytes: Buffer.concat([head, body]),
  };
}
