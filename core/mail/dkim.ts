/** DomainKeys Identified Mail (RFC 6376): what is signed, and the record that a domain publishes. */
import { field } from "./header.ts";

/** Both kinds of key, RFC 8301 and RFC 8463. */
export type Algorithm = "rsa-sha256" | "ed25519-sha256";

/** Fields that are signed where they are there; From once more, so that nobody adds another (8.15). */
const SIGNED = [
  "From",
  "From",
  "To",
  "Subject",
  "Date",
  "Message-ID",
  "Reply-To",
  "Content-Language",
  "List-ID",
  "List-Unsubscribe",
  "List-Unsubscribe-Post",
  "MIME-Version",
  "Content-Type",
];

/** A field by the relaxed canonicalization (3.4.2), without its end of line. */
export function relaxed(text: string): string {
  const colon = text.indexOf(":");
  const value = text
    .slice(colon + 1)
    .replace(/\r\n/g, "")
    .replace(/[ \t]+/g, " ")
    .trim();
  return `${text.slice(0, colon).trim().toLowerCase()}:${value}`;
}

export interface SignedBy {
  readonly algorithm: Algorithm;
  /** The domain that stands for the message. */
  readonly domain: string;
  readonly selector: string;
  readonly at: Date;
  /** SHA-256 of the body, base64. */
  readonly bodyHash: string;
}

export interface ToSign {
  /** What the signature is of. */
  readonly data: string;
  /** The field with the signature (base64) in it. */
  finish(signature: string): string;
}

/** What a signature of a message is of, and the field it stands in. */
export function toSign(
  fields: readonly (readonly [name: string, text: string])[],
  { algorithm, domain, selector, at, bodyHash }: SignedBy,
): ToSign {
  const known = new Map(fields.map(([name, text]) => [name, relaxed(text)]));
  const names = SIGNED.filter((name) => known.has(name));
  const seconds = Math.floor(at.getTime() / 1000);
  const tags = [
    `v=1; a=${algorithm}; c=relaxed/relaxed; d=${domain}; s=${selector}; t=${seconds};`,
    `h=${names.join(":").toLowerCase()};`,
    `bh=${bodyHash};`,
    "b=",
  ].join(" ");
  // Each instance of a field once, from the last to the first: a second one is not there, and empty (5.4.2).
  const signed = [...new Set(names)].map((name) => known.get(name)!);
  return {
    data: [...signed, relaxed(`DKIM-Signature: ${tags}`)].join("\r\n"),
    finish(signature) {
      const lines = signature.match(/.{1,70}/g) ?? [];
      return field("DKIM-Signature", tags + lines.join("\r\n "));
    },
  };
}

/** The record that a domain publishes for a key (3.6.1); `key` is base64. */
export const keyRecord = (algorithm: Algorithm, key: string): string =>
  `v=DKIM1; k=${algorithm === "rsa-sha256" ? "rsa" : "ed25519"}; p=${key}`;

/** Where that record stands. */
export const keyName = (selector: string, domain: string): string =>
  `${selector}._domainkey.${domain}`;
