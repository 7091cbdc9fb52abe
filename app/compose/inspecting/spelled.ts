/** Words of the email that somebody has looked up: the dictionaries are the server's. */
import { ask } from "../../ask.ts";
import type { SpellingAnswer } from "../wire.ts";
import type { KnownWords, UnknownWords } from "./inspect.ts";

/** The email is told of without its spelling where the server takes longer, ms. */
const PATIENCE_MS = 3_000;

export interface Spelled {
  known(): KnownWords;
  /** Has words looked up; gives whether they are known now. */
  learn(unknown: UnknownWords): Promise<boolean>;
  /** Takes a word for a right one, in every language. */
  accept(word: string): void;
}

export function createSpelled(campaign: string): Spelled {
  const known = new Map<string, Map<string, readonly string[] | null>>();
  return {
    known: () => known,
    accept(word) {
      for (const words of known.values()) {
        for (const one of words.keys()) {
          if (one.toLowerCase() === word.toLowerCase()) words.set(one, null);
        }
      }
    },
    async learn(unknown) {
      const signal = AbortSignal.timeout(PATIENCE_MS);
      const path = `/campaigns/${campaign}/spelling`;
      const reply = await ask<SpellingAnswer>(path, { json: { words: unknown }, signal });
      if (reply.kind !== "ok") return false;
      for (const [lang, wrong, whole] of reply.body.words) {
        const words = known.get(lang) ?? new Map<string, readonly string[] | null>();
        known.set(lang, words);
        // Where there is too much that is wrong, nobody has looked at the rest.
        const asked = unknown.find(([one]) => one === lang)?.[1] ?? [];
        if (whole) for (const word of asked) words.set(word, null);
        for (const [word, guesses] of wrong) words.set(word, guesses);
      }
      return true;
    },
  };
}
