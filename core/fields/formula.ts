/**
 * What a spreadsheet may take for a formula: the signs it begins with, in any width, with what is passed over
 * before them, and with apostrophes that we put there.
 */
export const LIKE_A_FORMULA = /^'*[\p{Cf}\p{Zs}]*[=+\-@\t\r\n\uFF1D\uFF0B\uFF0D\uFF20\u2212]/u;
