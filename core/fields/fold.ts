// biome-ignore lint/suspicious/noControlCharactersInRegex: all of ASCII is meant
const ASCII = /^[\u0000-\u007f]*$/;

/**
 * Folds a text for comparison: case and accents away. Values are folded when written, since the
 * database and JavaScript fold some letters differently; folded values compare by code unit.
 */
export function fold(text: string): string {
  if (ASCII.test(text)) return text.toLowerCase();
  return (
    text
      .normalize("NFKD")
      .replace(/\p{M}+/gu, "")
      .toLowerCase()
      // How a sigma is written depends on what follows it; a beginning must fold as it does in the whole.
      .replaceAll("ς", "σ")
      .normalize("NFC")
  );
}
