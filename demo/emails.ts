/** The garden's emails: a draft worth looking at, one sent, one waiting, and a template. */
import {
  createBand,
  createBlock,
  createColumn,
  createDocument,
  itemKind,
} from "#core/blocks/index.ts";
import { newRow, TABLE_KINDS } from "#core/blocks/table-items.ts";
import { PLAIN_TYPE } from "#core/blocks/type-style.ts";
import type { DocNode, EmailDocument } from "#core/document/index.ts";
import { box, pad } from "#core/kinds/common.ts";
import { createItem } from "#core/kinds/item.ts";
import { doc, type Line, line, paragraph, phrase, type TextJson, tag } from "#core/text/index.ts";
import { STANDARD_THEME, type Theme } from "#core/theme/theme.ts";

export const GARDEN_THEME: Theme = { ...STANDARD_THEME, name: "Larkmoor" };

/** Pictures of the demo by the names of their drawings. */
export type DemoPictures = Record<
  "early-flowers" | "brook-walk" | "glasshouse" | "seed-packets",
  string
>;

const counter = (prefix: string) => {
  let n = 0;
  return () => `${prefix}${++n}`;
};
const web = (address: string) => ({ kind: "web" as const, address: line(address) });
const firstName = (fallback: string | null) => tag("contact:first_name", fallback);

const bandOf = (id: () => string, name: string, blocks: DocNode[], props = {}) =>
  createBand(id, [createColumn(id, blocks)], { name, ...props });

const masthead = (id: () => string) =>
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

const footer = (id: () => string) =>
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

const envelope = (subject: Line, preview: Line) => ({
  fromName: line("Larkmoor Botanic Garden"),
  fromAddress: "news@larkmoor.example",
  replyTo: "hello@larkmoor.example",
  subject,
  preview,
});

const linked = (words: string, address: string): TextJson => ({
  type: "text",
  text: words,
  marks: [{ type: "link", attrs: { to: web(address) as never } }],
});

const wideImage = (id: () => string, picture: string, alt: string, to?: string) =>
  createBlock("image", id, {
    picture,
    alt: line(alt),
    to: to ? web(to) : { kind: "none" },
    box: box(pad(0, 0), "center"),
  });

const walk = (
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

export function monthlyNewsletter(pictures: DemoPictures, month: string): EmailDocument {
  const id = counter("m");
  const bands = [
    masthead(id),
    bandOf(id, "Opening", [
      wideImage(
        id,
        pictures["early-flowers"],
        "Rows of early white flowers along the brook at Larkmoor Hill",
        "https://larkmoor.example/visit",
      ),
      createBlock("heading", id, { words: phrase("The early flowers are up") }),
      createBlock("text", id, {
        words: doc(
          paragraph(
            "Dear ",
            firstName("gardener"),
            ", eleven kinds are in flower along the brook this week, and the path from ",
            tag("contact:site", "the gate"),
            " is dry again.",
          ),
          {
            type: "paragraph",
            content: [
              { type: "text", text: "There is a " },
              linked("map of what is out", "https://larkmoor.example/map"),
              { type: "text", text: " at both gates, and benches in the sun until four." },
            ],
          },
        ),
      }),
    ]),
    createBand(
      id,
      [
        createColumn(
          id,
          walk(id, {
            picture: pictures["brook-walk"],
            alt: "The brook between two old trees",
            title: "Brook walk",
            words: "Saturday, 10 to 12, with a warm drink at the end.",
            to: "https://larkmoor.example/walks/brook",
          }),
        ),
        createColumn(
          id,
          walk(id, {
            picture: pictures.glasshouse,
            alt: "The glasshouse lit from inside in the evening",
            title: "Glasshouse by lamp",
            words: "Friday evening, for two hours after closing.",
            to: "https://larkmoor.example/walks/glasshouse",
          }),
        ),
      ],
      { name: "Two walks" },
    ),
    bandOf(
      id,
      "Friends’ evening",
      [
        createBlock("heading", id, { words: phrase("Friends’ evening"), level: 2 }),
        createBlock("text", id, {
          words: doc(
            paragraph(
              "You have been with us since ",
              tag("contact:joined", "the beginning", { type: "date", style: "long" }),
              ". As a ",
              tag("contact:membership", "Friend"),
              " you may bring one guest.",
            ),
          ),
        }),
        createBlock("button", id, {
          label: line("Say that you come"),
          to: web("https://larkmoor.example/evening"),
          box: box(pad(8, 28, 24), "start"),
        }),
      ],
      { background: "tint" },
    ),
    bandOf(id, "From the seed shop", [
      createBlock("heading", id, { words: phrase("New in the seed shop"), level: 2 }),
      wideImage(id, pictures["seed-packets"], "", "https://larkmoor.example/seeds"),
      createBlock("text", id, {
        words: doc("Three old kinds that do well on heavy ground, saved here since last autumn.", {
          type: "bullet_list",
          content: ["Saltmere sweet pea", "Brook angelica", "Larkmoor marigold"].map((name) => ({
            type: "list_item",
            content: [paragraph(name)],
          })),
        }),
      }),
    ]),
    footer(id),
  ];
  return createDocument(bands, {
    theme: GARDEN_THEME,
    envelope: envelope(
      line(firstName(null), `, the early flowers are up: ${month} at Larkmoor`),
      line("Come and see them before the month is out, and two walks by the brook."),
    ),
  });
}

export function seedList(pictures: DemoPictures): EmailDocument {
  const id = counter("s");
  const bands = [
    masthead(id),
    bandOf(id, "Opening", [
      wideImage(
        id,
        pictures["seed-packets"],
        "Three seed packets: plum, green and gold",
        "https://larkmoor.example/seeds",
      ),
      createBlock("heading", id, { words: phrase("The new seed list is here") }),
      createBlock("text", id, {
        words: doc(
          paragraph(
            "Dear ",
            firstName("gardener"),
            ", forty kinds, all grown and saved on our own ground. The first orders leave on Monday.",
          ),
        ),
      }),
      createBlock("button", id, {
        label: line("See the list"),
        to: web("https://larkmoor.example/seeds/list"),
      }),
    ]),
    bandOf(id, "New this year", [
      createBlock("heading", id, { words: phrase("New this year"), level: 2 }),
      createBlock("table", id, { onNarrow: "pairs" }, [
        createItem(TABLE_KINDS.column, id, { share: 45 }),
        createItem(TABLE_KINDS.column, id, { share: 35 }),
        createItem(TABLE_KINDS.column, id, { share: 20, align: "end" }),
        newRow(id, ["Kind", "Sow", "Packet"]),
        newRow(id, ["Saltmere sweet pea", "March, under glass", "£2.40"]),
        newRow(id, ["Brook angelica", "May, where it stays", "£1.90"]),
        newRow(id, ["Larkmoor marigold", "April to June", "£1.60"]),
      ]),
    ]),
    bandOf(
      id,
      "How to sow",
      [
        createBlock("heading", id, { words: phrase("How to sow them"), level: 2 }),
        createBlock("text", id, {
          words: doc({
            type: "paragraph",
            content: [
              { type: "text", text: "Our gardeners wrote down " },
              linked("what they do week by week", "https://larkmoor.example/notebook/sowing"),
              { type: "text", text: "." },
            ],
          }),
        }),
      ],
      { background: "tint" },
    ),
    footer(id),
  ];
  return createDocument(bands, {
    theme: GARDEN_THEME,
    envelope: envelope(
      line("The new seed list, ", firstName("gardener")),
      line("Forty kinds from our own ground."),
    ),
  });
}

export function notebook(pictures: DemoPictures): EmailDocument {
  const id = counter("n");
  const bands = [
    masthead(id),
    bandOf(id, "Opening", [
      createBlock("heading", id, { words: phrase("The gardeners’ notebook") }),
      createBlock("text", id, {
        words: doc(
          paragraph("Hello ", firstName("gardener"), ", three things from the beds this week."),
        ),
      }),
      createBlock("image", id, {
        picture: pictures.glasshouse,
        alt: line("The glasshouse in the evening"),
        corner: 4,
      }),
      createBlock("text", id, {
        words: doc(
          "The glass was cleaned on Tuesday, and the ferns noticed before we did.",
          "Cuttings taken now root in four weeks on a north sill. Keep them damp, not wet.",
        ),
      }),
      createBlock("button", id, {
        label: line("Read the notebook"),
        to: web("https://larkmoor.example/notebook"),
      }),
      createBlock(
        "signOff",
        id,
        {
          greeting: line("Until next week"),
          name: line("The gardeners"),
          role: line("Larkmoor Hill"),
          box: box(pad(16, 28)),
        },
        [
          createItem(itemKind("signOff.way")!, id, {
            label: line("Write to us"),
            to: { kind: "mail", address: "garden@larkmoor.example" },
          }),
        ],
      ),
    ]),
    footer(id),
  ];
  return createDocument(bands, {
    theme: GARDEN_THEME,
    envelope: envelope(
      line("From the gardeners’ notebook"),
      line("Clean glass, cuttings, and a word on ferns."),
    ),
  });
}

/** The template that ships. */
export function calmNewsletter(): EmailDocument {
  const id = counter("t");
  const bands = [
    bandOf(
      id,
      "Masthead",
      [createBlock("masthead", id, { name: line("YOUR NAME HERE"), colour: "onAccent" })],
      { background: "accent" },
    ),
    bandOf(id, "Opening", [
      createBlock("image", id, {
        box: box(pad(0, 0), "center"),
      }),
      createBlock("heading", id, { words: phrase("What this email is about") }),
      createBlock("text", id),
      createBlock("button", id),
    ]),
    createBand(
      id,
      ["One thing", "Another thing"].map((title) =>
        createColumn(id, [
          createBlock("heading", id, {
            words: phrase(title),
            level: 2,
            type: { ...PLAIN_TYPE, size: 18 },
          }),
          createBlock("text", id, { words: doc("Two sentences about it, no more.") }),
        ]),
      ),
      { name: "Two things" },
    ),
    bandOf(id, "Footer", [createBlock("divider", id), createBlock("footer", id)]),
  ];
  return createDocument(bands, {
    envelope: {
      fromName: line(),
      fromAddress: "",
      replyTo: "",
      subject: line(),
      preview: line(),
    },
  });
}
