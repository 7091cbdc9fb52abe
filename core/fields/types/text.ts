import { LIMITS } from "../../limits.ts";
import { fold } from "../fold.ts";
import type { FieldKind } from "../kind.ts";

/** Letters, digits and signs of most of the world's alphabets, blanks between them: nothing to clean. */
const CLEAN = /^[!-~\u00a1-\u1fff](?:[ -~\u00a1-\u1fff]*[!-~\u00a1-\u1fff])?$/;

/** Without what neither a database nor a reader can take: controls (lines may break), lone surrogates. */
export const cleanText = (text: string): string =>
  text.length <= LIMITS.fieldText && CLEAN.test(text) ? text : cleaned(text);

const cleaned = (text: string): string =>
  text
    .toWellFormed()
    .replace(/\r\n?/g, "\n")
    // biome-ignore lint/suspicious/noControlCharactersInRegex: controls are what is taken out
    .replace(/[\u0000-\u0009\u000b-\u001f\u007f\u2066-\u2069\u202a-\u202e]/g, " ")
    .trim()
    .slice(0, LIMITS.fieldText)
    .toWellFormed();

export const text: FieldKind<string> = {
  type: "text",
  label: "Text",
  column: "text",
  key: { column: "text", of: fold },
  check: (value) => (typeof value === "string" ? cleanText(value) || null : null),
  parse: (written) =>
    written.length > LIMITS.fieldText
      ? { problem: `longer than ${LIMITS.fieldText} characters` }
      : { value: cleanText(written) || null },
  write: (value) => value,
  sample: ({ label }) => label,
};
