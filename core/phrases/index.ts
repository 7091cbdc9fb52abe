/** What readers are told, by language. Another language is a file beside these and a line here. */
import { en, type Phrases } from "./en.ts";
import { fr } from "./fr.ts";

const CATALOGUE = { en, fr } as const;
export type Language = keyof typeof CATALOGUE;
export const LANGUAGES: readonly { code: Language; name: string; own: readonly string[] }[] = [
  { code: "en", name: "English", own: ["en", "english", "anglais"] },
  { code: "fr", name: "Français", own: ["fr", "french", "francais"] },
];
export const phrases = (language: Language): Phrases => CATALOGUE[language];

/** The language somebody means who writes “French”, “français” or “fr-BE”; English where it is none of ours. */
export function languageOf(text: unknown): Language {
  if (typeof text !== "string") return "en";
  const plain = text
    .normalize("NFKD")
    .replace(/\p{M}+/gu, "")
    .toLowerCase()
    .trim();
  const found = LANGUAGES.find(
    ({ code, own }) => own.includes(plain) || plain.startsWith(`${code}-`),
  );
  return found?.code ?? "en";
}
export type { Phrases };
