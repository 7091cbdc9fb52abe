/** A text that is no longer than so many characters, cut at the end of a word, with an ellipsis. */
export function trimmed(text: string, length: number): string {
  // So many code units are as many letters at most.
  if (text.length <= length) return text;
  const letters = [...text];
  if (letters.length <= length) return text;
  const cut = letters.slice(0, length - 1).join("");
  const atWord = cut.replace(/\s+\S*$/, "");
  return `${(atWord.length >= length / 2 ? atWord : cut).trimEnd()}…`;
}
