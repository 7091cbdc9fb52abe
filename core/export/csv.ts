import { LIKE_A_FORMULA } from "../fields/index.ts";

const NUMBER = /^[+-]?\d+(\.\d+)?$/;

/**
 * A cell that no spreadsheet takes for a formula: what begins like one gets an apostrophe in front, which our
 * own import takes away again. Numbers stay numbers.
 */
export const csvCell = (text: string): string =>
  LIKE_A_FORMULA.test(text) && !NUMBER.test(text) ? `'${text}` : text;
