const NUMBER = /^[+-]?\d+(\.\d+)?$/;

/**
 * A cell that no spreadsheet takes for a formula: what begins like one gets an apostrophe in front, which our
 * own import takes away again. Numbers stay numbers.
 */
export const csvCell = (text: string): string =>
  /^('*[=+\-@\t\r])/.test(text) && !NUMBER.test(text) ? `'${text}` : text;
