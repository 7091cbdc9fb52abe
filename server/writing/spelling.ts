/** The misspelled words of an email, in each of its languages. */
import { passagesOf, spelling, wordsToSpell } from "#core/checks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import type { Finding } from "#core/kinds/kind.ts";
import type { Wrong } from "./dictionaries.ts";
import type { Speller } from "./speller.ts";

/** `ours`: words that are right although no dictionary has them, in small letters. */
export async function spellingOf(
  speller: Speller,
  doc: EmailDocument,
  ours: ReadonlySet<string>,
): Promise<Finding[]> {
  const passages = passagesOf(doc);
  const wrong = new Map<string, Wrong>();
  for (const [lang, words] of wordsToSpell(passages, ours)) {
    wrong.set(lang, await speller([...words], lang));
  }
  return spelling(passages, ours, wrong);
}
