/** What a link leads to, as pieces: constants, the message's token, and tags. The one spelling of every address. */
import type { CompiledEmail } from "../render/index.ts";
import { type Link, lineMarkup, type Slot } from "../text/index.ts";

/** `tracked`: through the counting address; `direct`: as they are. */
export type LinkMode = "tracked" | "direct";
type TagSlot = Extract<Slot, { slot: "tag" }>;
export type AddressPart = string | { readonly slot: "token" } | TagSlot;

const TOKEN = { slot: "token" } as const;

/** The address of a link, nothing escaped; `number` is the link's number in the email. */
export function addressParts(
  to: Link,
  number: number,
  email: Pick<CompiledEmail, "publicAddress">,
  mode: LinkMode,
): AddressPart[] {
  const base = email.publicAddress;
  switch (to.kind) {
    case "web":
      if (mode === "tracked") return [`${base}/c/`, TOKEN, `/${number}`];
      return lineMarkup(to.address, "url").segments.filter(
        (segment): segment is string | TagSlot =>
          typeof segment === "string" || segment.slot === "tag",
      );
    case "mail":
      return [`mailto:${to.address}`];
    case "phone":
      // RFC 3966: digits, and a plus in front.
      return [`tel:${to.number.replace(/[^+0-9]/g, "")}`];
    case "webVersion":
      return [`${base}/w/`, TOKEN];
    case "unsubscribe":
      return [`${base}/u/`, TOKEN];
    case "none":
      return [];
  }
}

/** The open pixel around its address: what stands before the token and after it. */
export const pixelParts = (email: Pick<CompiledEmail, "publicAddress">): [string, string] => [
  `${email.publicAddress}/o/`,
  '.gif" width="1" height="1" alt="" style="display:block;border:0">',
];
