/** Words in the dictionaries that ship, by Hunspell: loaded when first asked for, what was looked up is kept. */
import { loadModule } from "hunspell-asm";
import { LIMITS } from "#core/limits.ts";

type Dictionary = () => Promise<{ default: { aff: Uint8Array; dic: Uint8Array } }>;
/** By language, the closest first. A new one is a package and a line. */
const DICTIONARIES: readonly (readonly [language: RegExp, Dictionary])[] = [
  [/^en-(us|ca)/i, () => import("dictionary-en")],
  [/^en/i, () => import("dictionary-en-gb")],
  [/^fr/i, () => import("dictionary-fr")],
];

interface Speller {
  spell(word: string): boolean;
  suggest(word: string): string[];
}

let hunspell: ReturnType<typeof loadModule> | undefined;
const loaded = new Map<Dictionary, Promise<Speller>>();

function load(dictionary: Dictionary): Promise<Speller> {
  const made = loaded.get(dictionary) ?? open(dictionary);
  loaded.set(dictionary, made);
  return made;
}

async function open(dictionary: Dictionary): Promise<Speller> {
  hunspell ??= loadModule();
  const factory = await hunspell;
  const { aff, dic } = (await dictionary()).default;
  return factory.create(factory.mountBuffer(aff), factory.mountBuffer(dic));
}

/** Words that are wrong, each with what it might be. */
export type Wrong = ReadonlyMap<string, readonly string[]>;

/** What was looked up: null for what is right. */
const known = new Map<string, readonly string[] | null>();
const SUGGESTED = 2;
/** Guessing takes the longer, the more letters there are: nobody writes such words by mistake. */
const GUESSED_LETTERS = 16;

function isRight(speller: Speller, word: string): boolean {
  const right = (one: string) => speller.spell(one) || speller.spell(one.toLowerCase());
  if (right(word) || right(word.replace(/'s$/i, ""))) return true;
  return word.includes("-") && word.split("-").every((part) => part.length < 3 || right(part));
}

const guesses = (speller: Speller, word: string): string[] =>
  speller
    .suggest(word)
    .filter((one) => !one.includes(" "))
    .slice(0, SUGGESTED);

/**
 * Of some words those that are wrong, with what they might be; none in a language without a dictionary. Guesses are
 * made for as long as they may take (ms); later words are told without.
 */
export async function lookUp(
  words: readonly string[],
  lang: string,
  most: number = LIMITS.guessMs,
): Promise<Wrong> {
  const wrong = new Map<string, readonly string[]>();
  const dictionary = DICTIONARIES.find(([language]) => language.test(lang))?.[1];
  if (!dictionary) return wrong;
  const speller = await load(dictionary);
  const until = performance.now() + most;
  for (const word of words) {
    const key = `${lang} ${word}`;
    let better = known.get(key);
    if (better === undefined) {
      const plain = word.replaceAll("’", "'");
      const right = isRight(speller, plain);
      const guess = !right && plain.length <= GUESSED_LETTERS && performance.now() < until;
      better = right ? null : guess ? guesses(speller, plain) : [];
      if (known.size >= LIMITS.spellingKept) known.clear();
      // What there was no time for is guessed another time.
      if (right || guess || plain.length > GUESSED_LETTERS) known.set(key, better);
    }
    if (better === null) continue;
    const written = word.includes("’") ? better.map((one) => one.replaceAll("'", "’")) : better;
    wrong.set(word, written);
    if (wrong.size >= LIMITS.spellingFindings) break;
  }
  return wrong;
}
