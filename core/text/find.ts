/** Finding words in a text, and putting others in their place. */
import { Fragment, Slice } from "prosemirror-model";
import { ReplaceStep } from "prosemirror-transform";
import type { Json } from "../json.ts";
import { lettersIn } from "./letters.ts";
import { parseText, type TextJson, type TextKind, textSchema } from "./schema.ts";

export interface Query {
  readonly words: string;
  /** Capitals and small letters are told apart. */
  readonly exact: boolean;
  /** Only where it is not part of a longer word. */
  readonly whole: boolean;
}

/** A place in a text, in positions of prosemirror-model. */
export interface Found {
  readonly from: number;
  readonly to: number;
}

const LETTER = /[\p{L}\p{N}_]/u;

/** Every place where the words stand, from the beginning; none overlaps another. */
export function findWords(text: TextJson, { words, exact, whole }: Query): Found[] {
  if (words === "") return [];
  const found: Found[] = [];
  // Lower case can be longer than what it stands for; then positions would drift, so that letter by letter is folded.
  const fold = (s: string) =>
    exact
      ? s
      : Array.from(s, (c) => (c.toLowerCase().length === c.length ? c.toLowerCase() : c)).join("");
  const wanted = fold(words);
  for (const { start, letters: own } of lettersIn(text)) {
    const letters = fold(own);
    for (let at = letters.indexOf(wanted); at >= 0; ) {
      const end = at + wanted.length;
      const inside =
        whole && (LETTER.test(letters[at - 1] ?? " ") || LETTER.test(letters[end] ?? " "));
      if (!inside) found.push({ from: start + at, to: start + end });
      at = letters.indexOf(wanted, inside ? at + 1 : end);
    }
  }
  return found;
}

/** The steps that put other words in the places found, with the marks of what stood there. */
export function replaceFound(text: TextJson, places: readonly Found[], words: string): Json[] {
  const root = parseText(text, text.type as TextKind);
  // From the end, so that no place moves before its turn.
  return [...places]
    .sort((a, b) => b.from - a.from)
    .map(({ from, to }) => {
      const marks = root.nodeAt(from)?.marks ?? [];
      const content = words ? Fragment.from(textSchema.text(words, marks)) : Fragment.empty;
      return new ReplaceStep(from, to, new Slice(content, 0, 0)).toJSON() as Json;
    });
}
