/** Plain text that is written by hand: what it starts from, and whether what it was written from has changed. */
import type { EmailDocument } from "../document/index.ts";
import { fingerprint } from "../json.ts";
import type { HandText } from "../kinds/hand-text.ts";
import type { Surroundings } from "../kinds/kind.ts";
import { LIMITS } from "../limits.ts";
import { type Segment, wrapText } from "../markup/index.ts";
import type { Rule } from "../rules/index.ts";
import {
  EVERYBODY_KEY,
  isShownTo,
  type Link,
  lineLiquid,
  OWN_ADDRESSES,
  tagLiquid,
} from "../text/index.ts";
import { compileText } from "./compile.ts";

/** A link's address as it is written by hand: tags in Liquid, the email's own addresses by their names. */
function address(to: Link): string {
  switch (to.kind) {
    case "web":
      return lineLiquid(to.address);
    case "mail":
      return to.address;
    case "file":
      return to.name;
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

/** What stands in the text where these conditions hold; where none is asked for, all that it could say. */
function spelled(segments: readonly Segment[], holding?: readonly string[]): string {
  const conditions = [EVERYBODY_KEY, ...(holding ?? [])];
  const bits = holding && "1".repeat(conditions.length);
  const outer: boolean[] = [];
  let shown = true;
  let text = "";
  for (const segment of segments) {
    if (typeof segment === "string") text += shown ? segment : "";
    else if (segment.slot === "if") {
      outer.push(shown);
      if (bits) shown &&= isShownTo(segment.when, conditions, bits);
    } else if (segment.slot === "end") shown = outer.pop() ?? true;
    else if (!shown) continue;
    else if (segment.slot === "tag") {
      const { said, fallback } = segment.tag;
      // What an item has said stands there in words.
      text += said === undefined ? tagLiquid(segment.tag) : String(said) || (fallback ?? "");
    } else if (segment.slot === "link") text += address(segment.to);
  }
  return wrapText(text, Number.POSITIVE_INFINITY).trim();
}

/** The rules that words in a text depend on, in the order in which they come. */
const rulesOf = (segments: readonly Segment[]): string[] =>
  [
    ...new Set(
      segments.flatMap((segment) =>
        typeof segment !== "string" && segment.slot === "if" ? segment.when.all : [],
      ),
    ),
  ].filter((key) => key !== EVERYBODY_KEY);

/** What is made from a block now. */
export interface MadeText {
  /** All that it could say, for whomever. */
  readonly source: string;
  /** Its mark. */
  readonly of: string;
  /** How it begins where it is to be written by hand: with what each of its rules shows as an alternative. */
  readonly begins: HandText;
}

/**
 * What is made from a block now, as it can be written on by hand (lines run on; they end where the text goes
 * out). Nothing for what is no block.
 */
export function handTextOf(doc: EmailDocument, id: string, surroundings: Surroundings): MadeText {
  // A derived tag stands in it as itself, not as all that it could say.
  const segments = compileText(doc, id, { ...surroundings, derived: undefined }) ?? [];
  const source = spelled(segments);
  const of = fingerprint(source);
  const rules = rulesOf(segments).slice(0, LIMITS.handTextAlternatives);
  const alternatives = rules.map((key) => ({
    seenBy: JSON.parse(key) as Rule,
    source: spelled(segments, [key]),
  }));
  const words = { source: spelled(segments, []), of };
  return { source, of, begins: alternatives.length > 0 ? { ...words, alternatives } : words };
}
