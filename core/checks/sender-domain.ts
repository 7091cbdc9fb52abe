import type { EmailProps } from "../blocks/layout.ts";
import type { EmailDocument } from "../document/index.ts";
import { asciiDomain } from "../mail/header.ts";
import type { Check } from "./check.ts";

/** The domain an email comes from; null where that differs between readers, or nobody has written it. */
export function senderDomainOf({ root }: EmailDocument): string | null {
  const { fromAddress } = (root.props as unknown as EmailProps).envelope;
  const at = fromAddress.lastIndexOf("@");
  return at < 0 ? null : asciiDomain(fromAddress.slice(at + 1));
}

/** Mail that is not signed with a key of its sender's domain, as mail from a public mailbox never is, is mistrusted. */
export const senderDomain: Check = {
  id: "sender-domain",
  run({ doc, surroundings: { senderDomain: standing } }) {
    // While composing another may have been written since DNS was asked.
    if (!standing || standing.domain !== senderDomainOf(doc)) return [];
    const { domain, signed, policy } = standing;
    const place = { check: "sender-domain", at: "settings" };
    if (signed === false) {
      const strict = policy === "quarantine" || policy === "reject";
      return [
        {
          ...place,
          severity: "look" as const,
          message: `${domain} does not publish the key this email is signed with`,
          detail: strict
            ? `And it says that mail without one is ${policy === "reject" ? "refused" : "spam"}: write from a domain of your own, and publish its records.`
            : "Many programs take such mail for spam. The records to publish stand in Settings.",
        },
      ];
    }
    if (signed && policy === null) {
      return [
        {
          ...place,
          severity: "hint" as const,
          message: `${domain} does not say what becomes of mail that pretends to be its own`,
          detail: "Large mail services want a DMARC record; it stands in Settings.",
        },
      ];
    }
    return [];
  },
};
