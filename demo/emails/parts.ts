/** What the garden's emails have in common. */
import { createBand, createBlock, createColumn, itemKind } from "#core/blocks/index.ts";
import { PLAIN_TYPE } from "#core/blocks/type-style.ts";
import type { DocNode } from "#core/document/index.ts";
import { box, pad } from "#core/kinds/common.ts";
import { createItem } from "#core/kinds/item.ts";
import { doc, type Line, line, phrase, type TextJson, tag } from "#core/text/index.ts";
import { STANDARD_THEME, type Theme } from "#core/theme/theme.ts";

export const GARDEN_THEME: Theme = { ...STANDARD_THEME, name: "Larkmoor" };

/** Pictures of the demo by the names of their drawings. */
export type DemoPictures = Record<
  "early-flowers" | "brook-walk" | "glasshouse" | "seed-packets",
  string
>;

export const counter = (prefix: string) => {
  let n = 0;
  return () => `${prefix}${++n}`;
};
export const web = (address: string) => ({ kind: "web" as const, address: line(address) });
export const firstName = (fallback: string | null) => tag("contact:first_name", fallback);

export const bandOf = (id: () => string, name: string, blocks: DocNode[], props = {}) =>
  createBand(id, [createColumn(id, blocks)], { name, ...props });

export const masthead = (id: () => string) =>
  bandOf(
    id,
    "Masthead",
    [
      createBlock(
        "masthead",
        id,
        {
          name: line("LARKMOOR"),
          to: web("https://larkmoor.example"),
          colour: "onAccent",
          type: { ...PLAIN_TYPE, spacing: 20 },
        },
        [],
      ),
    ],
    { background: "accent" },
  );

const social = (id: () => string, sign: string, label: string, address: string) =>
  createItem(itemKind("socialLinks.link")!, id, { sign, label: line(label), to: web(address) });

export const footer = (id: () => string) =>
  bandOf(id, "Footer", [
    createBlock("divider", id),
    createBlock("socialLinks", id, {}, [
      social(id, "photos", "Photos from the garden", "https://larkmoor.example/photos"),
      social(id, "film", "Films of the year", "https://larkmoor.example/films"),
      social(id, "site", "Our website", "https://larkmoor.example"),
    ]),
    createBlock("footer", id, {
      why: doc("You get this because you asked for news from Larkmoor Botanic Garden."),
    }),
  ]);

export const envelope = (subject: Line, preview: Line) => ({
  fromName: line("Larkmoor Botanic Garden"),
  fromAddress: "news@larkmoor.example",
  replyTo: "hello@larkmoor.example",
  subject,
  preview,
});

export const linked = (words: string, address: string): TextJson => ({
  type: "text",
  text: words,
  marks: [{ type: "link", attrs: { to: web(address) as never } }],
});

export const wideImage = (id: () => string, picture: string, alt: string, to?: string) =>
  createBlock("image", id, {
    picture,
    alt: line(alt),
    to: to ? web(to) : { kind: "none" },
    box: box(pad(0, 0), "center"),
  });

export const walk = (
  id: () => string,
  walkProps: { picture: string; alt: string; title: string; words: string; to: string },
) => [
  createBlock("image", id, {
    picture: walkProps.picture,
    alt: line(walkProps.alt),
    corner: 4,
    to: web(walkProps.to),
  }),
  createBlock("heading", id, {
    words: phrase(walkProps.title),
    level: 2,
    type: { ...PLAIN_TYPE, size: 18 },
    colour: "ink",
    box: box(pad(8, 28, 2), "start"),
  }),
  createBlock("text", id, { words: doc(walkProps.words) }),
  createBlock("button", id, { label: line("Keep me a place"), to: web(walkProps.to) }),
];
