/** Parts of markup that are there for some readers only. */
import type { When } from "../text/index.ts";
import { html, join, type Markup, slot, trusted } from "./markup.ts";

/** Markup that is there for some readers only. */
export const shownWhen = (
  when: When | null,
  inner: Markup,
  of: "part" | "words" = "part",
): Markup =>
  when && inner.segments.length > 0
    ? html`${slot({ slot: "if", when, of })}${inner}${slot({ slot: "end", of })}`
    : inner;

/** One of several parts of a plain text. */
export interface ShownPart {
  readonly when: When | null;
  readonly text: Markup;
}

/**
 * Parts with something between each two, such that it is there exactly where both are: with a part that some
 * do not see goes what parts it from the others.
 */
export function joinShown(parts: readonly ShownPart[], between: string): Markup {
  const written = parts.filter(({ text }) => text.segments.length > 0);
  const gap = trusted(between);
  let firm = false;
  return join(
    written.map(({ when, text }) => {
      const markup = firm ? join([gap, text]) : when ? join([text, gap]) : text;
      firm ||= when === null;
      return shownWhen(when, markup);
    }),
  );
}
