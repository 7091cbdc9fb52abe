/** How the words read: type, tables, sentences, language, words that stand twice. */
import type { EmailProps } from "../blocks/layout.ts";
import type { Finding } from "../kinds/kind.ts";
import { languageName } from "../languages/index.ts";
import { colourPairs } from "../render/index.ts";
import { readabilityOf, sentencesOf, wordsOfText } from "../writing/readability.ts";
import type { Check } from "./check.ts";
import { bodyOf, inPassage, matchesIn, rewording, said } from "./passages.ts";

/** px; below the first it is hard to read for many, below the second for nearly all. */
const SMALL = 14;
const TINY = 12;

export const typeSize: Check = {
  id: "type-size",
  run({ compiled }) {
    const told = new Set<string>();
    return colourPairs(compiled.html).flatMap(({ node, size, words }): Finding[] => {
      if (size >= SMALL || told.has(node) || !/\p{L}/u.test(words)) return [];
      told.add(node);
      return [
        {
          check: "type-size",
          severity: size < TINY ? "look" : "hint",
          message: `Words are ${size} px high`,
          detail: `“${words}”: ${SMALL} px are read without trouble.`,
          at: node,
        },
      ];
    });
  },
};

/** A table whose first row names its columns is read aloud with those names (WCAG 2.2, 1.3.1). */
export const tableHeadings: Check = {
  id: "table-headings",
  run: ({ nodes }) =>
    nodes.flatMap(({ node }) =>
      node.type !== "table" || node.props.header || node.props.rowHeader
        ? []
        : [
            {
              check: "table-headings",
              severity: "hint" as const,
              message: "A table has no row of headings",
              detail: "Whoever listens hears cells, and not what they are.",
              at: node.id,
              in: ["header"],
              mends: [
                {
                  label: "The first row names the columns",
                  edits: [{ type: "set" as const, node: node.id, path: ["header"], value: true }],
                },
              ],
            },
          ],
    ),
};

/** Words that few can follow in one breath; ease below which a text is for experts. */
const LONG_SENTENCE = 45;
const HARD = 20;
const LEAST_WORDS = 60;

/** Finding sentences takes its time: it is done where points stand far apart, or words are long. */
const mayBeLong = (paragraph: string): boolean =>
  paragraph.split(/[.!?…]\s/).some((part) => part.split(" ").length > LONG_SENTENCE);
function mayBeHard(text: string): boolean {
  const words = text.split(/\s+/).length;
  return words >= LEAST_WORDS && text.length / words > 7;
}

export const readingLevel: Check = {
  id: "reading-level",
  run: ({ passages }) =>
    bodyOf(passages).flatMap((passage) => {
      const paragraphs = passage.paragraphs.map(({ letters }) => letters.replaceAll("\ufffc", " "));
      const place = { check: "reading-level", severity: "hint" as const, ...inPassage(passage) };
      const long = paragraphs
        .filter(mayBeLong)
        .flatMap((one) => sentencesOf(one, passage.lang))
        .map((sentence) => wordsOfText(sentence).length)
        .filter((count) => count > LONG_SENTENCE);
      if (long.length > 0) {
        return [
          {
            ...place,
            message: `A sentence has ${Math.max(...long)} words`,
            detail: "Few follow one so long: make it two.",
          },
        ];
      }
      if (!mayBeHard(paragraphs.join(" "))) return [];
      const found = readabilityOf(paragraphs, passage.lang);
      if (!found || found.words < LEAST_WORDS || found.ease >= HARD) return [];
      return [
        {
          ...place,
          message: "A text is hard to read",
          detail: `Its reading ease is ${found.ease} of 100: shorter words and sentences help.`,
        },
      ];
    }),
};

/** Words of which every text of a language is full, and which the other has not. */
const TELLING: Readonly<Record<string, RegExp>> = {
  en: /(?<!\p{L})(?:the|and|of|with|you|your|we|our|is|are|for|this|that|from|have|will)(?!\p{L})/gu,
  fr: /(?<!\p{L})(?:le|les|des|du|et|une|vous|votre|nous|notre|est|sont|pour|dans|avec|sur|qui|que|au|aux)(?!\p{L})/gu,
};
const LEAST = 6;

/** A screen reader speaks in the language the email says it is in (WCAG 2.2, 3.1.1). */
export const language: Check = {
  id: "language",
  run({ email, passages }) {
    const { lang, others } = email as EmailProps;
    return [lang, ...others].flatMap((one) => {
      const own = one.slice(0, 2).toLowerCase();
      if (!TELLING[own]) return [];
      const words = bodyOf(passages)
        .filter((passage) => passage.lang === one)
        .map(said)
        .join(" ")
        .toLowerCase();
      const count = (of: string) => words.match(TELLING[of]!)?.length ?? 0;
      const [other, most] = Object.keys(TELLING)
        .filter((each) => each !== own)
        .map((each) => [each, count(each)] as const)
        .sort((a, b) => b[1] - a[1])[0]!;
      // Most are what they say: their own words need not be counted.
      if (most < LEAST || most < 3 * count(own)) return [];
      return [
        {
          check: "language",
          severity: "look" as const,
          message: `The email says it is ${languageName(own)}, and reads as ${languageName(other)}`,
          detail:
            "Screen readers would speak it as the wrong language. Set the language of the email.",
          at: "email",
          in: ["lang"],
        },
      ];
    });
  },
};

/** Words that stand twice for good reason. */
const TWICE = new Set(
  "that had is nous vous les en bye very so no ha ho tut wagga cha chop knock".split(" "),
);

export const doubledWords: Check = {
  id: "doubled-word",
  run: ({ passages }) =>
    [
      ...matchesIn(passages, /(?<![\p{L}\p{N}’'-])(\p{L}{2,})(\s+)\1(?![\p{L}\p{N}’'-])/giu),
    ].flatMap(({ passage, paragraph, match, at }) => {
      const [whole, word, gap] = match as unknown as [string, string, string];
      // Names do: Baden Baden.
      const second = whole.slice(word.length + gap.length);
      const isName = /^\p{Lu}/u.test(second);
      if (TWICE.has(word.toLowerCase()) || isName) return [];
      const range = [at + word.length, at + whole.length] as const;
      return [
        {
          check: "doubled-word",
          severity: "look" as const,
          message: `“${whole}” stands there`,
          detail: "A word is there twice.",
          ...inPassage(passage),
          mends: [
            { label: `Make it “${word}”`, edits: [rewording(passage, paragraph, range, "")] },
          ],
        },
      ];
    }),
};
