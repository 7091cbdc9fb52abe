/** Codes of a roll: read from a file of one column, or made by a pattern. */
import { LIMITS } from "../limits.ts";

export interface ReadCodes {
  /** Each once, in the order of the file. */
  readonly codes: readonly string[];
  readonly blanks: number;
  readonly repeated: number;
  /** What was taken for the name of the column. */
  readonly header: string | null;
  /** Lines that are no codes, the first few. */
  readonly wrong: readonly { readonly line: number; readonly text: string }[];
}

/** What a code may be: visible characters without blanks at its ends, on one line. */
const CODE = /^[\p{L}\p{N}\p{P}\p{S}](?:[\p{L}\p{N}\p{P}\p{S} ]{0,62}[\p{L}\p{N}\p{P}\p{S}])?$/u;
/** Names that a column of codes is given. */
const HEADER = /^(codes?|coupons?|vouchers?|voucher codes?|coupon codes?|bons?|codes? promo)$/i;
const WRONG_SHOWN = 5;

/** A cell of a CSV line of one column: quotes around it are taken away. */
const unquoted = (line: string): string => {
  const text = line
    .trim()
    .replace(/[,;\t]+$/, "")
    .trim();
  return /^".*"$/.test(text) ? text.slice(1, -1).replaceAll('""', '"').trim() : text;
};

/** Reads codes, one on each line (TXT, or CSV of one column; RFC 4180 quotes). */
export function readCodes(file: string): ReadCodes {
  const lines = file.replace(/^\ufeff/, "").split(/\r\n|\n|\r/);
  const codes = new Set<string>();
  const wrong: { line: number; text: string }[] = [];
  let [blanks, repeated] = [0, 0];
  let header: string | null = null;
  // The empty text after the last line end is no line.
  if (lines.at(-1) === "") lines.pop();
  for (const [i, written] of lines.entries()) {
    const text = unquoted(written);
    if (text === "") blanks++;
    else if (i === 0 && HEADER.test(text)) header = text;
    else if (!CODE.test(text)) {
      if (wrong.length < WRONG_SHOWN) wrong.push({ line: i + 1, text: text.slice(0, 40) });
    } else if (codes.has(text)) repeated++;
    else codes.add(text);
  }
  return { codes: [...codes], blanks, repeated, header, wrong };
}

/** Letters and digits that nobody mistakes for one another. */
const LETTERS = "ABCDEFGHJKMNPQRSTUVWXYZ";
const DIGITS = "23456789";
const SETS: Readonly<Record<string, string>> = {
  "#": DIGITS,
  "@": LETTERS,
  "*": LETTERS + DIGITS,
};

/** How many different codes a pattern can make: # a digit, @ a letter, * either. */
export const patternSize = (pattern: string): number =>
  [...pattern].reduce((size, one) => size * (SETS[one]?.length ?? 1), 1);

/** What is wrong with making so many codes by a pattern, or null. */
export function patternProblem(pattern: string, count: number): string | null {
  if (!/[#@*]/.test(pattern))
    return "A pattern has # for a digit, @ for a letter or * for either in it.";
  if (!CODE.test(pattern)) return "A code has no blanks at its ends and at most 64 characters.";
  if (count > LIMITS.codesAtOnce)
    return `At most ${LIMITS.codesAtOnce.toLocaleString("en-GB")} at once.`;
  // So that nobody finds one by trying: for each code given out there are many that are none.
  return patternSize(pattern) >= count * LIMITS.codesSparse
    ? null
    : "The pattern is too short: codes could be guessed. Put more # @ or * in it.";
}

/** Different codes by a pattern. `random` gives a whole number below its argument, from a source nobody can foresee. */
export function makeCodes(
  pattern: string,
  count: number,
  random: (below: number) => number,
): string[] {
  const made = new Set<string>();
  while (made.size < count) {
    made.add(
      [...pattern].map((one) => (SETS[one] ? SETS[one][random(SETS[one].length)]! : one)).join(""),
    );
  }
  return [...made];
}

/** What previews and tests show instead of a code, so that nobody takes it for one. */
export const SAMPLE_CODE = "SAMPLE-CODE";
