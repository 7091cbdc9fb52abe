/** Parts of markup that are there for some readers only. */
import { seenRuns, type When, whenBoth } from "../text/index.ts";
import { html, join, type Markup, type Segment, slot, trusted } from "./markup.ts";

/**
 * Every segment with when it is shown (null: always), what it stands in taken in; an `if` and its `end` with what they
 * enclose. A picture that the server makes comes once for each run of its words that the same readers see.
 */
export function* withWhen(
  segments: readonly Segment[],
): Generator<{ segment: Segment; when: When | null }> {
  const open: When[] = [];
  for (const segment of segments) {
    if (typeof segment !== "string" && segment.slot === "if") {
      open.push(whenBoth(open.at(-1) ?? null, segment.when)!);
    }
    const outer = open.at(-1) ?? null;
    const words = typeof segment !== "string" && segment.slot === "made" && segment.recipe.words;
    if (!words) yield { segment, when: outer };
    else {
      for (const { when, parts } of seenRuns(words.content ?? [])) {
        const recipe = { ...segment.recipe, words: { ...words, content: parts } };
        yield { segment: { ...segment, recipe }, when: whenBoth(outer, when) };
      }
    }
    if (typeof segment !== "string" && segment.slot === "end") open.pop();
  }
}

/** The same with what stands in items that only some readers have. */
export function* allWithWhen(
  segments: readonly Segment[],
): Generator<{ segment: Segment; when: When | null }> {
  for (const one of withWhen(segments)) {
    yield one;
    if (typeof one.segment === "string" || one.segment.slot !== "chosen") continue;
    for (const { first, later } of one.segment.cells.values()) {
      for (const cell of first === later ? [later] : [first, later]) {
        for (const { segment, when } of allWithWhen(cell.segments)) {
          yield { segment, when: whenBoth(one.when, when) };
        }
      }
    }
  }
}

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
