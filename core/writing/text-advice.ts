/** Shorter and plainer wording by rules. */
import { ATOM } from "../text/index.ts";
import type { Proposal, Remark, TextAdvice } from "./helper.ts";
import { readabilityOf, sentencesOf, wordsOfText } from "./readability.ts";
import { languageOf, MISTRUSTED, WORDINGS } from "./wordings.ts";

/** Words of a sentence from which on it is long. */
const LONG = 26;

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
/** Words as they stand alone, not within others. */
const alone = (words: string) =>
  new RegExp(`(?<![\\p{L}\\p{N}’'-])${escaped(words)}(?![\\p{L}\\p{N}’'-])`, "giu");

/** The twin with the capital of what it stands for. */
const likeIt = (before: string, after: string) =>
  /^\p{Lu}/u.test(before) ? after.charAt(0).toUpperCase() + after.slice(1) : after;

interface Place {
  readonly from: number;
  readonly to: number;
}
const overlaps = (a: Place, b: Place) => a.from < b.to && b.from < a.to;

/** A wording that is left out goes with the blank beside it, and hands its capital on. */
function without(letters: string, from: number, to: number): { to: number; after: string } {
  const begins = /^\p{Lu}/u.test(letters.slice(from, to));
  const next = /^,? (\p{L}[\p{L}\p{N}’'-]*)/u.exec(letters.slice(to));
  if (!next) return { to, after: "" };
  const end = to + next[0].length;
  const word = next[1]!;
  return { to: end, after: begins ? word.charAt(0).toUpperCase() + word.slice(1) : word };
}

function proposalsIn(letters: string, paragraph: number, language: string): Proposal[] {
  const found: Proposal[] = [];
  const add = (from: number, to: number, after: string, reason: string) => {
    const place = { from, to };
    if (found.some((one) => overlaps(one, place))) return;
    found.push({ paragraph, from, to, before: letters.slice(from, to), after, reason });
  };
  // Longer wordings first: “in order to” before “in order”.
  const wordings = [...(WORDINGS[language] ?? [])].sort((a, b) => b.long.length - a.long.length);
  for (const { long, plain } of wordings) {
    for (const match of letters.matchAll(alone(long))) {
      const [before] = match;
      const from = match.index;
      const to = from + before.length;
      if (plain) {
        add(from, to, likeIt(before, plain), plain.length < long.length ? "Shorter" : "Plainer");
        continue;
      }
      // “a very old” would leave “a old”.
      if (/(?<!\p{L})an? $/iu.test(letters.slice(0, from))) continue;
      const left = without(letters, from, to);
      if (left.to > to) add(from, left.to, left.after, "Says little");
    }
  }
  for (const match of letters.matchAll(/(?<![\p{L}\p{N}])(\p{L}+) \1(?![\p{L}\p{N}])/giu)) {
    add(match.index, match.index + match[0].length, match[1]!, "Written twice");
  }
  for (const match of letters.matchAll(/([!?])\1+/g)) {
    add(match.index, match.index + match[0].length, match[1]!, "One is enough");
  }
  for (const match of letters.matchAll(/ {2,}/g)) {
    add(match.index, match.index + match[0].length, " ", "One blank is enough");
  }
  return found.sort((a, b) => a.from - b.from);
}

function remarksIn(letters: string, paragraph: number, lang: string): Remark[] {
  const remarks: Remark[] = [];
  for (const sentence of sentencesOf(letters.replaceAll(ATOM, "…"), lang)) {
    const words = wordsOfText(sentence).length;
    if (words >= LONG) {
      remarks.push({
        paragraph,
        words: `${sentence.slice(0, 60)}…`,
        reason: `A sentence of ${words} words; two would read more easily.`,
      });
    }
  }
  for (const words of MISTRUSTED[languageOf(lang)] ?? []) {
    const match = alone(words).exec(letters);
    if (match) {
      remarks.push({
        paragraph,
        words: match[0],
        reason: "Readers and filters meet this with mistrust.",
      });
    }
  }
  const capitals = /(?:\p{Lu}{3,}[ ]){2,}\p{Lu}{3,}/u.exec(letters);
  if (capitals) {
    remarks.push({
      paragraph,
      words: capitals[0],
      reason: "Capitals all through read as shouting.",
    });
  }
  return remarks;
}

/** Everything the rules find in paragraphs. Tags and line breaks stand in them as U+FFFC and stay untouched. */
export function adviseText(paragraphs: readonly string[], lang: string): TextAdvice {
  const language = languageOf(lang);
  return {
    readability: readabilityOf(paragraphs, lang),
    proposals: paragraphs.flatMap((letters, i) => proposalsIn(letters, i, language)),
    remarks: paragraphs.flatMap((letters, i) => remarksIn(letters, i, lang)),
  };
}
