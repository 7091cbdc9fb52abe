/** A resolver that stands in for DNS: the garden's domain has its records, no other made-up one has any. */
import { keyName, keyRecord } from "#core/mail/index.ts";
import type { MailKeys } from "../mail/keys.ts";
import { type AskTxt, networkTxt } from "../mail/resolver.ts";

const GARDEN = "larkmoor.example";
/** Names that are nobody's (RFC 2606). */
const MADE_UP = /(^|\.)(example|test|invalid|localhost)$/;

export function shippedTxt(keys: MailKeys): AskTxt {
  const zone = new Map([
    [GARDEN, ["v=spf1 include:mail.larkmoor.example ~all"]],
    [`_dmarc.${GARDEN}`, ["v=DMARC1; p=quarantine; rua=mailto:dmarc@larkmoor.example"]],
    ...keys.published.map(({ algorithm, selector, published }): [string, string[]] => [
      keyName(selector, GARDEN),
      [keyRecord(algorithm, published)],
    ]),
  ]);
  const network = networkTxt();
  return async (name) => (MADE_UP.test(name) ? (zone.get(name) ?? []) : network(name));
}
