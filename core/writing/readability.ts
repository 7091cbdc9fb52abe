/**
 * Reading ease. English: R. Flesch, “A new readability yardstick” (1948); French: L. Kandel and A. Moles,
 * “Application de l’indice de Flesch à la langue française” (1958).
 */
import type { Readability } from "./helper.ts";
import { languageOf } from "./wordings.ts";

/** Fewer words than this say nothing about how they read. */
const LEAST_WORDS = 12;

const WORD = /[\p{L}\p{M}’'-]+/gu;

/** Dear to make, and the same for all texts of a language. */
const segmenters = new Map<string, Intl.Segmenter>();
function segmenterOf(lang: string): Intl.Segmenter {
  const own = languageOf(lang);
  const made = segmenters.get(own) ?? new Intl.Segmenter(own, { granularity: "sentence" });
  segmenters.set(own, made);
  return made;
}

export const sentencesOf = (paragraph: string, lang: string): string[] =>
  Array.from(segmenterOf(lang).segment(paragraph), ({ segment }) => segment.trim()).filter(
    (sentence) => /\p{L}/u.test(sentence),
  );

export const wordsOfText = (text: string): string[] =>
  (text.match(WORD) ?? []).filter((word) => /\p{L}/u.test(word));

/** Groups of vowels, without an e that is not spoken at the end. */
export function syllables(word: string, lang: string): number {
  const plain = word.toLowerCase().normalize("NFC");
  const vowels = /[aeiouyàâäéèêëîïôöùûüœæ]+/g;
  const silent = languageOf(lang) === "fr" ? /(e|es|ent)$/ : /(?<![lr])e$/;
  const spoken = plain.length > 3 ? plain.replace(silent, "") : plain;
  return Math.max(1, spoken.match(vowels)?.length ?? 0);
}

/** How easily paragraphs read; null where there are too few words to tell. */
export function readabilityOf(paragraphs: readonly string[], lang: string): Readability | null {
  const sentences = paragraphs.flatMap((one) => sentencesOf(one, lang));
  const words = paragraphs.flatMap(wordsOfText);
  if (words.length < LEAST_WORDS || sentences.length === 0) return null;
  const beats = words.reduce((sum, word) => sum + syllables(word, lang), 0);
  const perSentence = words.length / sentences.length;
  const perWord = beats / words.length;
  const ease =
    languageOf(lang) === "fr"
      ? 207 - 1.015 * perSentence - 73.6 * perWord
      : 206.835 - 1.015 * perSentence - 84.6 * perWord;
  return {
    ease: Math.round(Math.min(100, Math.max(0, ease))),
    words: words.length,
    sentences: sentences.length,
  };
}
