import type { Check } from "./check.ts";
import { bodyOf, inPassage, said } from "./passages.ts";

const folded = (words: string) =>
  words
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, " ")
    .trim();
/** Fewer letters say nothing about what repeats. */
const LEAST = 12;

/** The preview text stands beside the subject in the inbox: it says something of its own. */
export const preview: Check = {
  id: "preview",
  run({ passages }) {
    const found = passages.filter(({ role }) => role === "preview");
    return found.flatMap((passage) => {
      const own = folded(said(passage));
      const add = (severity: "look" | "hint", message: string, detail: string) => [
        { check: "preview", severity, message, detail, ...inPassage(passage) },
      ];
      if (own === "") {
        return add(
          "look",
          "There is no preview text",
          "The inbox shows the first words of the email instead, whatever they are.",
        );
      }
      if (own.length < LEAST) return [];
      const subject = passages.find(
        ({ role, lang }) => role === "subject" && lang === passage.lang,
      );
      if (subject && folded(said(subject)) === own) {
        return add(
          "look",
          "The preview text says the subject again",
          "It stands right beside it: say what comes next.",
        );
      }
      const begins = bodyOf(passages).find(
        (one) => one.lang === passage.lang && said(one).trim().length >= LEAST,
      );
      const first = begins && folded(said(begins));
      if (first?.startsWith(own) || (first && own.startsWith(first))) {
        return add(
          "look",
          "The preview text says the first words of the email again",
          "Whoever opens it reads them twice.",
        );
      }
      return [];
    });
  },
};
