/** What is said of images by their alt texts, and whether anything is said but by images. */
import type { Mention } from "../mentions/index.ts";
import { type Check, placeOf } from "./check.ts";
import { bodyOf, inPassage, type Passage, rewording, said } from "./passages.ts";

const FILE = /\.(jpe?g|png|gif|webp|svg|heic|tiff?)$/i;
const CAMERA = /^(img|dsc|dscn|pxl|image|photo|screenshot|untitled|scan)[\s_-]*\d*$/i;
/** Whole words only: an image may show the “image design” of something. */
const PRELUDE =
  /^(image|picture|photo|photograph|graphic|icon) ((of|showing|de|du|des)(?![\p{L}\p{N}])|d[’'])\s*/iu;
/** Letters that are listened to in one go. */
const LONG = 150;

function problemOf(
  words: string,
): { severity: "look" | "hint"; message: string; detail: string } | null {
  if (FILE.test(words) || CAMERA.test(words)) {
    return {
      severity: "look",
      message: "An alt text is the name of a file",
      detail: `“${words}”: say what the image shows instead.`,
    };
  }
  if (words.length > LONG) {
    return {
      severity: "hint",
      message: `An alt text has ${words.length} letters`,
      detail:
        "Screen readers read it in one go: a sentence is enough, the rest belongs in the text.",
    };
  }
  return null;
}

/** Alt texts that say nothing, or too much (WCAG 2.2, 1.1.1). */
export const altWords: Check = {
  id: "alt-words",
  run: ({ passages }) =>
    passages.flatMap((passage) => {
      if (passage.role !== "alt" || passage.node.props.decorative === true) return [];
      const words = said(passage).trim();
      const place = { check: "alt-words", ...inPassage(passage) };
      const problem = problemOf(words);
      if (problem) return [{ ...place, ...problem }];
      const prelude = PRELUDE.exec(words)?.[0];
      if (!prelude) return [];
      const [paragraph] = passage.paragraphs;
      const next = prelude.length;
      const first = String.fromCodePoint(words.codePointAt(next) ?? 0x20).trim();
      return [
        {
          ...place,
          severity: "hint" as const,
          message: `An alt text begins with “${prelude.trim()}”`,
          detail: "Screen readers say that it is an image anyway.",
          mends:
            paragraph!.letters.startsWith(prelude) && first
              ? [
                  {
                    label: "Leave it out",
                    edits: [
                      rewording(
                        passage,
                        paragraph!,
                        [0, next + first.length],
                        first.toLocaleUpperCase(),
                      ),
                    ],
                  },
                ]
              : [],
        },
      ];
    }),
};

/** Words of a body, at least, that are no image. */
const LEAST = 6;
const FRAME = new Set(["footer", "masthead"]);
const wordsIn = (passages: readonly Passage[]) =>
  passages.reduce((sum, passage) => sum + (said(passage).match(/[\p{L}\p{N}]+/gu)?.length ?? 0), 0);

/** An email of images alone says nothing where they are off, to whoever listens, and to filters. */
export const imageOnly: Check = {
  id: "image-only",
  run({ passages, mentions, nodes, surroundings: { live } }) {
    const images = mentions.filter(
      (one): one is Extract<Mention, { what: "picture" }> =>
        one.what === "picture" && !FRAME.has(one.node.type),
    );
    const hand = nodes.some(({ node }) => node.type === "html");
    if (images.length === 0 || hand || (live?.size ?? 0) > 0) return [];
    const body = bodyOf(passages).filter(({ node }) => !FRAME.has(node.type));
    if (wordsIn(body) >= LEAST) return [];
    return [
      {
        check: "image-only",
        severity: "look",
        message: "Nearly all of this email is images",
        detail: "With images off, and to filters, it says nothing: write the words as words.",
        at: placeOf(images[0]!.node),
      },
    ];
  },
};
