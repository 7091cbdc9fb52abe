/** Where an inbox cuts a text off: the most of it that fits on so many lines of a width. */

/** The width of a text, px. */
export type Measure = (text: string) => number;

export interface Cut {
  /** What is seen, line by line; the last ends in an ellipsis where there is more. */
  readonly lines: readonly string[];
  readonly rest: string;
}

const ELLIPSIS = "…";

/** The longest beginning of a text that fits, in characters as people count them. */
function fitting(characters: readonly string[], width: number, measure: Measure, end = ""): number {
  let [low, high] = [0, characters.length];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if (measure(characters.slice(0, middle).join("") + end) <= width) low = middle;
    else high = middle - 1;
  }
  return low;
}

const charactersOf = (text: string): string[] =>
  Array.from(
    new Intl.Segmenter(undefined, { granularity: "grapheme" }).segment(text),
    (s) => s.segment,
  );

/** Breaks lines at blanks and cuts the last one off where its width ends. */
export function cutOff(text: string, width: number, lines: number, measure: Measure): Cut {
  const shown: string[] = [];
  let left = text.replace(/\s+/g, " ").trim();
  for (let line = 1; line <= lines && left; line++) {
    const characters = charactersOf(left);
    if (measure(left) <= width) {
      shown.push(left);
      left = "";
    } else if (line === lines) {
      const n = fitting(characters, width, measure, ELLIPSIS);
      shown.push(characters.slice(0, n).join("").trimEnd() + ELLIPSIS);
      left = characters.slice(n).join("").trim();
    } else {
      const n = fitting(characters, width, measure);
      const blank = characters.slice(0, n + 1).lastIndexOf(" ");
      const at = blank > 0 ? blank : Math.max(1, n);
      shown.push(characters.slice(0, at).join(""));
      left = characters.slice(at).join("").trim();
    }
  }
  return { lines: shown, rest: left };
}
