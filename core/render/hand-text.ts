/** Plain text that is written by hand: what it starts from, and whether what it was written from has changed. */
import type { EmailDocument } from "../document/index.ts";
import { fingerprint } from "../json.ts";
import type { Surroundings } from "../kinds/kind.ts";
import {
  type Link,
  lineLiquid,
  OWN_ADDRESSES,
  type Segment,
  tagLiquid,
  wrapText,
} from "../text/index.ts";
import { compileText } from "./compile.ts";

/** A link's address as it is written by hand: tags in Liquid, the email's own addresses by their names. */
function address(to: Link): string {
  switch (to.kind) {
    case "web":
      return lineLiquid(to.address);
    case "mail":
      return to.address;
    case "derived":
      return `{{ derived.${to.tag} }}`;
    case "phone":
      return to.number;
    default: {
      const own = Object.entries(OWN_ADDRESSES).find(([, { kind }]) => kind === to.kind);
      return own ? `{{ ${own[0].replace(":", ".")} }}` : "";
    }
  }
}

const spelled = (segments: readonly Segment[]): string =>
  segments
    .map((segment) => {
      if (typeof segment === "string") return segment;
      if (segment.slot === "tag") return tagLiquid(segment.tag);
      return segment.slot === "link" ? address(segment.to) : "";
    })
    .join("");

/**
 * What is made from a block now, as it can be written on by hand (lines run on; they end where the text goes
 * out), and its mark. Nothing for what is no block.
 */
export function handTextOf(
  doc: EmailDocument,
  id: string,
  surroundings: Surroundings,
): { source: string; of: string } {
  // A derived tag stands in it as itself, not as all that it could say.
  const segments = compileText(doc, id, { ...surroundings, derived: undefined }) ?? [];
  const source = wrapText(spelled(segments), Number.POSITIVE_INFINITY).trim();
  return { source, of: fingerprint(source) };
}
