/** Finding by what is typed, the same in every list that is searched in the browser. */

/** Letters without case and accents. */
const folded = (text: string) => text.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();

/** How well `text` fits one word that is typed: as its beginning, as that of a word in it, within it, or not (0). */
function closeness(text: string, word: string): number {
  const first = text.indexOf(word);
  if (first <= 0) return first === 0 ? 3 : 0;
  for (let at = first; at > 0; at = text.indexOf(word, at + 1)) {
    if (!/[\p{L}\p{N}]/u.test(text[at - 1]!)) return 2;
  }
  return 1;
}

/**
 * Those in which every word that is typed is found, the likeliest first: the label counts for more than the
 * other words an entry is known by, and beginnings for more than middles. Equal ones keep their order.
 */
export function matching<T>(
  entries: readonly T[],
  typed: string,
  textOf: (entry: T) => { readonly label: string; readonly other?: string },
): T[] {
  const words = folded(typed).split(/\s+/).filter(Boolean);
  if (words.length === 0) return [...entries];
  const whole = words.join(" ");
  return entries
    .map((entry) => {
      const { label, other = "" } = textOf(entry);
      const text = folded(label);
      const rest = folded(other);
      const scores = words.map((word) => closeness(text, word) * 4 || closeness(rest, word));
      if (scores.some((score) => score === 0)) return { entry, score: 0 };
      const bonus = text === whole ? 40 : text.startsWith(whole) ? 20 : 0;
      return { entry, score: bonus + scores.reduce((a, b) => a + b, 0) / words.length };
    })
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score)
    .map(({ entry }) => entry);
}
