/** Plain text that is written by hand instead of what is made from a block, with other words for some readers. */
import { z } from "zod";
import { LIMITS } from "../limits.ts";
import { ruleSchema } from "../rules/index.ts";
import { type Seen, type When, whensOf } from "../text/index.ts";

const source = z.string().max(LIMITS.handText);

/** What some readers get in its place. */
const alternativeSchema = z.strictObject({ seenBy: ruleSchema, source });

/**
 * Words with tags in Liquid. `of` is the fingerprint of what was made when they were written: where that has
 * changed since, they may be stale. Of the alternatives, where there are any, a reader gets the first whose
 * rule holds, and everybody else the `source`.
 */
export const handTextSchema = z.strictObject({
  source,
  of: z.string().max(40),
  alternatives: z.array(alternativeSchema).max(LIMITS.handTextAlternatives).optional(),
});
export type HandText = z.infer<typeof handTextSchema>;

export interface HandPart {
  readonly seen: Seen;
  readonly source: string;
  /** When it is what a reader gets, of the block's text. */
  readonly when: When | null;
}

/** All that it may say: the first that fits first, what is for everybody else last. */
export function handParts({ source, alternatives = [] }: HandText): HandPart[] {
  const chain = alternatives.length > 0 ? "plain" : null;
  const parts = [...alternatives, { seenBy: null, source }].map(({ seenBy, source }) => ({
    seen: { seenBy, chain },
    source,
  }));
  const whens = whensOf(parts.map(({ seen }) => seen));
  return parts.map((part, i) => ({ ...part, when: whens[i]! }));
}
