/** What pages for readers say that a house may say in its own words. */
import { z } from "zod";
import { LIMITS } from "../limits.ts";
import { LANGUAGES, type Language, type Phrases, phrases } from "./index.ts";

/** The phrases that may be others, with where they stand. */
export const PAGE_PHRASES = {
  unsubscribeAsk: "Unsubscribing: the question",
  unsubscribed: "Unsubscribing: done",
  preferences: "Preferences: title",
  leftAll: "Preferences: for those who get nothing",
  joinCheck: "Sign-up: sent",
  confirmAsk: "Confirming: the question",
  confirmed: "Confirming: done",
  confirmedWords: "Confirming: what comes then",
} as const satisfies Partial<Record<keyof Phrases, string>>;
export type PagePhrase = keyof typeof PAGE_PHRASES;
export const PAGE_PHRASE_KEYS = Object.keys(PAGE_PHRASES) as PagePhrase[];

const own = z.string().trim().max(LIMITS.pageWords, "This is too long.").optional();
const ownOfLanguage = z.object(
  Object.fromEntries(PAGE_PHRASE_KEYS.map((key) => [key, own])) as Record<PagePhrase, typeof own>,
);
export const pageWordsSchema = z.object(
  Object.fromEntries(
    LANGUAGES.map(({ code }) => [code, ownOfLanguage.default({})]),
  ) as unknown as Record<Language, z.ZodDefault<typeof ownOfLanguage>>,
);
export type PageWords = z.infer<typeof ownOfLanguage>;

/** What a page says: the house's own words where it has some. */
export const pagePhrases = (language: Language, words: PageWords): Phrases => ({
  ...phrases(language),
  ...Object.fromEntries(Object.entries(words).filter(([, said]) => said)),
});
