/** Misspelled words. Dictionaries are the server's: it is asked which words are wrong, and says what they might be. */
import type { Finding } from "../kinds/kind.ts";
import { LIMITS } from "../limits.ts";
import type { Letters } from "../text/index.ts";
import { inPassage, type Passage, rewording } from "./passages.ts";

const WORD =
  /(?<![\p{L}\p{M}\p{N}@./_-])\p{L}[\p{L}\p{M}]*(?:[’'-][\p{L}\p{M}]+)*(?![\p{L}\p{M}\p{N}@_]|[./-]\p{L}|:\/\/)/gu;

/** Letters; nobody can say what a longer one might be. */
const LONGEST = 40;

interface Place {
  readonly passage: Passage;
  readonly paragraph: Letters;
  readonly word: string;
  readonly at: number;
}

/** A word that is written as a name is: with a capital, though no sentence begins. */
const isName = (letters: string, at: number, word: string): boolean =>
  /^\p{Lu}/u.test(word) && /[^.!?…:\s]\s*["“«‘(]*\s*$/u.test(letters.slice(0, at));

/** Words that stand somewhere in an email as names do. */
function namesIn(passages: readonly Passage[]): ReadonlySet<string> {
  const found = new Set<string>();
  for (const { paragraphs } of passages) {
    for (const { letters } of paragraphs) {
      for (const match of letters.matchAll(WORD)) {
        if (isName(letters, match.index, match[0])) found.add(match[0]);
      }
    }
  }
  return found;
}

function* placesIn(passages: readonly Passage[], ours: ReadonlySet<string>): Generator<Place> {
  const names = namesIn(passages);
  for (const passage of passages) {
    for (const paragraph of passage.paragraphs) {
      const { letters } = paragraph;
      for (const match of letters.matchAll(WORD)) {
        const [word] = match;
        const shouted = word === word.toUpperCase();
        if (
          word.length < 3 ||
          word.length > LONGEST ||
          shouted ||
          isName(letters, match.index, word)
        )
          continue;
        if (ours.has(word.toLowerCase()) || names.has(word)) continue;
        yield { passage, paragraph, word, at: match.index };
      }
    }
  }
}

/** Words of an email that are in no dictionary: names of the brand, of fields, of items. */
export const wordsIn = (...texts: readonly string[]): string[] =>
  texts.flatMap((text) => text.toLowerCase().match(/\p{L}[\p{L}\p{M}’'-]*/gu) ?? []);

/** The words to be looked up, by language. `ours`: words that are right, in small letters. */
export function wordsToSpell(
  passages: readonly Passage[],
  ours: ReadonlySet<string>,
): Map<string, Set<string>> {
  const found = new Map<string, Set<string>>();
  for (const { passage, word } of placesIn(passages, ours)) {
    found.set(passage.lang, (found.get(passage.lang) ?? new Set()).add(word));
  }
  return found;
}

/** Of the words that are wrong what they might be, by language. */
export type Misspelled = ReadonlyMap<string, ReadonlyMap<string, readonly string[]>>;

export function spelling(
  passages: readonly Passage[],
  ours: ReadonlySet<string>,
  wrong: Misspelled,
): Finding[] {
  const told = new Set<string>();
  const found: Finding[] = [];
  for (const { passage, paragraph, word, at } of placesIn(passages, ours)) {
    const better = wrong.get(passage.lang)?.get(word);
    const key = `${passage.node.id} ${passage.path.join(".")} ${word}`;
    if (!better || told.has(key)) continue;
    told.add(key);
    if (found.length === LIMITS.spellingFindings) break;
    found.push({
      check: "spelling",
      severity: "look",
      message: `“${word}” is not in the dictionary`,
      detail: better.length ? "It may be misspelled." : "It may be misspelled, or a name.",
      ...inPassage(passage),
      word,
      mends: better.map((one) => ({
        label: one,
        edits: [rewording(passage, paragraph, [at, at + word.length], one)],
      })),
    });
  }
  return found;
}
