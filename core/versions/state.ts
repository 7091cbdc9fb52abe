/**
 * The exact state of a version: all that its readers get but for their own values and for items of sources, which come
 * and go by themselves.
 */
import type { EmailDocument } from "../document/index.ts";
import type { Surroundings } from "../kinds/kind.ts";
import { mergeText, prepare, unsigned } from "../merge/index.ts";
import { inEachLanguage, type Version } from "./versions.ts";

/** Gives the content of a version as text that is the same as long as nobody changes anything in it. */
export function stateReader(
  doc: EmailDocument,
  surroundings: Surroundings,
): (version: Pick<Version, "lang" | "bits">) => string {
  const { items: _items, live: _live, ...still } = surroundings;
  const { languages } = inEachLanguage(doc, still);
  const prepared = new Map(
    [...languages].map(([lang, email]) => [
      lang,
      prepare(email, { links: "direct", marks: false, sign: unsigned }),
    ]),
  );
  return ({ lang, bits }) => {
    const { subject, fromName, html, text } = prepared.get(lang)!;
    const reader = { values: {}, token: "", bits };
    return [subject, fromName, html, text].map((body) => mergeText(body, reader)).join("\0");
  };
}
