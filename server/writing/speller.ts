/** Spelling by Hunspell and the dictionaries that ship: loaded when first asked for, what was looked up is kept. */
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

/** What was looked up: null for what is right. */
const known = new Map<string, readonly string[] | null>();
const SUGGESTED = 2;

function lookUp(speller: Speller, word: string): readonly string[] | null {
  const plain = word.replaceAll("’", "'");
  const small = plain.toLowerCase();
  const right = (one: string) => speller.spell(one) || speller.spell(one.toLowerCase());
  if (right(plain) || right(small.replace(/'s$/, ""))) return null;
  if (plain.includes("-") && plain.split("-").every((part) => part.length < 3 || right(part)))
    return null;
  return speller
    .suggest(plain)
    .filter((one) => !one.includes(" "))
    .slice(0, SUGGESTED)
    .map((one) => (word.includes("’") ? one.replaceAll("'", "’") : one));
}

/** Of some words those that are wrong, with what they might be; none in a language without a dictionary. */
export async function misspelled(
  words: Iterable<string>,
  lang: string,
): Promise<ReadonlyMap<string, readonly string[]>> {
  const wrong = new Map<string, readonly string[]>();
  const dictionary = DICTIONARIES.find(([language]) => language.test(lang))?.[1];
  if (!dictionary) return wrong;
  const speller = await load(dictionary);
  for (const word of words) {
    const key = `${lang} ${word}`;
    let better = known.get(key);
    if (better === undefined) {
      better = lookUp(speller, word);
      if (known.size >= LIMITS.spellingKept) known.clear();
      known.set(key, better);
    }
    if (better !== null) wrong.set(word, better);
    // Guessing what a word might be takes its time: nobody reads hundreds of guesses.
    if (wrong.size >= LIMITS.spellingFindings) break;
  }
  return wrong;
}
