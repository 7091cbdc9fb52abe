/** Random words, tags and texts, for property tests. */
import fc from "fast-check";
import { doc, line, paragraph, phrase, type Tag, type TextJson } from "../text/index.ts";

/** Words with everything that could break out of its place. */
export const nastyText = fc.oneof(
  fc.string({ unit: "grapheme", maxLength: 24 }),
  fc.constantFrom(
    `<script>alert("x")</script>`,
    `"><img src=x onerror=alert(1)>`,
    "' onmouseover='x",
    "&amp; & &lt;",
    "a\r\nBcc: everybody@example.org",
    "{{ contact }} {% raw %}",
    "]]> --> <![endif]-->",
    "\u202edrawkcab \u0000 \u2028 end",
    "https://example.org/?a=1&b=2#c",
    "çà et là, naïve",
    " ",
    "one\\ntwo \\",
  ),
);
/** Words as they can stand in a text: ProseMirror takes no empty text. */
export const words = nastyText.filter((text) => text !== "");

export const REFS = ["contact:first", "contact:joined", "contact:visits", "brand:name"] as const;

export const tagArbitrary: fc.Arbitrary<Tag> = fc.record({
  ref: fc.constantFrom(...REFS),
  fallback: fc.option(nastyText, { nil: null }),
  format: fc.constantFrom<Tag["format"][]>(
    null,
    { type: "case", to: "upper" },
    { type: "case", to: "title" },
    { type: "number", decimals: 1 },
    { type: "date", style: "long" },
    { type: "days", to: "until" },
    { type: "plural", one: "visit", other: "visits" },
    { type: "money", currency: "EUR" },
    { type: "article" },
    { type: "trim", length: 8 },
  ),
}) as fc.Arbitrary<Tag>;

const pieces = fc.array(fc.oneof(words, tagArbitrary), { maxLength: 4 });
const merged = (list: (string | Tag)[]) => {
  // Neighbouring strings are one text node in ProseMirror's normal form.
  const out: (string | Tag)[] = [];
  for (const piece of list) {
    const last = out.at(-1);
    if (typeof piece === "string" && typeof last === "string") out[out.length - 1] = last + piece;
    else out.push(piece);
  }
  return out;
};
export const lineArbitrary = pieces.map((list) => line(...merged(list)));
export const phraseArbitrary = pieces.map((list) => phrase(...merged(list)));
const linkedWords = fc.tuple(words, pieces).map(
  ([text, address]): TextJson => ({
    type: "paragraph",
    content: [
      {
        type: "text",
        text,
        marks: [
          {
            type: "link",
            attrs: {
              to: {
                kind: "web",
                address: line(
                  "https://example.org/?q=",
                  ...merged(address.filter((piece) => typeof piece !== "string")),
                ),
              } as never,
            },
          },
        ],
      },
    ],
  }),
);
const paragraphs = pieces.map((list) => paragraph(...merged(list)));
const list: fc.Arbitrary<TextJson> = fc
  .array(paragraphs, { minLength: 1, maxLength: 3 })
  .map((items) => ({
    type: "bullet_list",
    content: items.map((item) => ({ type: "list_item", content: [item] })),
  }));
export const docArbitrary = fc
  .array(fc.oneof(paragraphs, linkedWords, list), { minLength: 1, maxLength: 3 })
  .map((blocks) => doc(...blocks));
