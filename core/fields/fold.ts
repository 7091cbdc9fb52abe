/**
 * Folds a text for comparison: case and accents away. Values are folded when written, since the
 * database and JavaScript fold some letters differently; folded values compare by code unit.
 */
export function fold(text: string): string {
  return text
    .normalize("NFKD")
    .replace(/\p{M}+/gu, "")
    .toLowerCase()
    .normalize("NFC");
}
