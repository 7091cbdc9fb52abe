/** The shapes that blocks can take beside the one they come in, by their type and a name. */
import { BLOCKS, createBlock } from "../blocks/index.ts";
import { TABLE_KINDS } from "../blocks/table-items.ts";
import { PLAIN_TYPE } from "../blocks/type-style.ts";
import type { DocNode } from "../document/index.ts";
import { createItem } from "../kinds/item.ts";
import { doc, line, paragraph, phrase, type TextJson, tag } from "../text/index.ts";

const web = (address: string) => ({ kind: "web" as const, address: line(address) });
const marked = (text: string, ...marks: TextJson["marks"] & object): TextJson => ({
  type: "text",
  text,
  marks,
});
export const SENTENCE =
  "The path along the brook is dry again, and eleven kinds are in flower between the old trees and the wall.";

/** Rich words with everything the text type has. */
const RICH = doc(
  {
    type: "paragraph",
    content: [
      { type: "text", text: "Bold and " },
      marked("strong", { type: "strong" }),
      { type: "text", text: ", " },
      marked("leaning", { type: "em" }),
      { type: "text", text: ", m" },
      marked("2", { type: "superscript" }),
      { type: "text", text: ", " },
      marked("coloured", { type: "colour", attrs: { to: "accent" } }),
      { type: "text", text: ", " },
      marked("marked", { type: "ground", attrs: { to: "tint" } }),
      { type: "text", text: " and " },
      marked("linked", {
        type: "link",
        attrs: { to: web("https://larkmoor.example/map") as never },
      }),
      { type: "text", text: " words." },
      { type: "hard_break" },
      { type: "text", text: "A line of its own." },
    ],
  },
  { type: "indented", content: [paragraph("Set in from the side.")] },
  {
    type: "ordered_list",
    content: ["One thing", "Another thing"].map((text) => ({
      type: "list_item",
      content: [paragraph(text)],
    })),
  },
  paragraph("Dear ", tag("contact:first_name", "gardener"), ", goodbye."),
);

export interface Variant {
  readonly props?: object;
  readonly email?: object;
  readonly children?: (newId: () => string) => DocNode[];
  /** What stands under it. */
  readonly beside?: (newId: () => string) => DocNode[];
}
type Variants = Record<string, Record<string, Variant>>;

/** Pictures of samples: one that is seen nearly everywhere, and one that is high, for narrow. */
export interface SamplePictures {
  readonly picture: string;
  readonly tall: string;
}

export const variants = ({ picture, tall }: SamplePictures): Variants => {
  const alt = line("Rows of early white flowers along the brook");
  const shown = { picture, alt };
  const two = {
    to: web("https://larkmoor.example/book"),
    parts: { second: true },
    secondTo: web("https://larkmoor.example/map"),
  };
  const blocksOfCard = (newId: () => string) => [
    createBlock("image", newId, shown),
    createBlock("heading", newId, { words: phrase("In a card"), level: 3 }),
    createBlock("text", newId, { words: doc(SENTENCE) }),
    createBlock("button", newId, { to: web("https://larkmoor.example") }),
  ];
  return {
    heading: {
      two: { props: { level: 2 } },
      "small-on-narrow": { props: { type: { ...PLAIN_TYPE, size: 44, narrow: 26 } } },
      three: {
        props: {
          level: 3,
          type: {
            ...{ font: "mono", size: 20, narrow: null, lineHeight: 150, spacing: 20 },
            capitals: true,
          },
        },
      },
    },
    text: {
      rich: { props: { words: RICH } },
      "long-word": { props: { words: doc("Lopadotemachoselachogaleo".repeat(4)) } },
      framed: {
        props: {
          box: {
            background: "tint",
            padding: { top: 20, right: 30, bottom: 20, left: 10 },
            border: { width: 3, colour: "accent" },
            corner: 12,
            align: "end",
            alignNarrow: "center",
            dir: null,
          },
        },
      },
      rtl: {
        props: {
          words: doc("הגן פתוח היום עד הערב, והשביל ליד הנחל יבש.", {
            type: "bullet_list",
            content: ["פרחים", "עצים"].map((text) => ({
              type: "list_item",
              content: [paragraph(text)],
            })),
          }),
        },
        email: { dir: "rtl", lang: "he" },
      },
    },
    quote: {
      stars: { props: { stars: 4 } },
      portrait: { props: { ...shown, parts: { portrait: true }, stars: 5 } },
    },
    table: {
      named: {
        props: { parts: { caption: true }, rowHeader: true, rules: "all", onNarrow: "pairs" },
      },
      pairs: { props: { onNarrow: "pairs", rules: "all", stripes: "tint" } },
      pictures: {
        props: { header: false },
        children: (newId) => [
          createItem(TABLE_KINDS.column, newId, { share: 30 }),
          createItem(TABLE_KINDS.column, newId, { share: 70 }),
          ...["One", "Two"].map((text) => ({
            ...createItem(TABLE_KINDS.row, newId),
            children: [
              createItem(TABLE_KINDS.cell, newId, { holds: "picture", ...shown }),
              createItem(TABLE_KINDS.cell, newId, { words: doc(text, SENTENCE) }),
            ],
          })),
        ],
      },
    },
    signOff: {
      picture: {
        props: {
          ...shown,
          parts: { picture: true, greeting: true, signature: false, role: true },
          to: web("https://larkmoor.example/people"),
        },
      },
      signature: {
        props: {
          ...{ signature: { picture }, signatureWidth: 120 },
          parts: { picture: false, greeting: true, signature: true, role: true },
        },
      },
    },
    image: {
      shown: { props: shown },
      versions: { props: { ...shown, dark: { picture }, narrow: { picture: tall } } },
      linked: {
        props: {
          ...shown,
          share: 50,
          corner: 20,
          backing: "#ffffff",
          to: web("https://larkmoor.example"),
        },
      },
    },
    pictureAndWords: {
      shown: { props: shown },
      turned: { props: { ...shown, side: "end", onNarrow: "picture", share: 25 } },
      keep: { props: { ...shown, onNarrow: "keep", share: 30 } },
      rtl: { props: shown, email: { dir: "rtl", lang: "ar" } },
      button: {
        props: {
          ...{
            ...shown,
            to: web("https://larkmoor.example/walk"),
            linkTitle: true,
            look: "outline",
          },
          parts: { picture: true, title: true, words: true, button: true },
        },
      },
    },
    captionedPicture: {
      whole: { props: { ...shown, whole: true, to: web("https://larkmoor.example") } },
      under: { props: { ...shown, ground: "tint" } },
      over: { props: { ...shown, place: "over", ground: "accent", colour: "onAccent" } },
    },
    pictureGrid: {
      shown: {
        props: { perRow: 3, gap: 8, shape: 100 },
        children: (newId) => gridPictures(newId, 5, shown),
      },
      stacked: { props: { onNarrow: "stack" }, children: (newId) => gridPictures(newId, 4, shown) },
      shop: {
        props: { parts: { price: true, action: true } },
        children: (newId) =>
          gridPictures(newId, 2, { ...shown, to: web("https://larkmoor.example") }),
      },
    },
    video: { shown: { props: { ...shown, to: web("https://larkmoor.example/film") } } },
    button: {
      full: { props: { wide: "full", size: 20, to: web("https://larkmoor.example") } },
      outline: { props: { look: "outline", narrow: "full", to: web("https://larkmoor.example") } },
      quiet: { props: { look: "quiet", to: web("https://larkmoor.example") } },
      pair: { props: { ...two, secondLook: "quiet" } },
      halves: { props: { ...two, wide: "full" } },
      "outline-full": {
        props: { look: "outline", wide: "full", corner: 24, to: web("https://larkmoor.example") },
      },
    },
    coupon: {
      bare: { props: { parts: { title: false, terms: false, until: false, action: false } } },
      till: {
        props: {
          ...{ code: line("4006381333931"), barcode: "ean13", until: "2026-12-24" },
          ...{ action: line("Use it in the shop"), to: web("https://larkmoor.example/shop") },
          parts: { title: true, terms: true, until: true, action: true },
        },
      },
    },
    countdown: {
      running: {
        props: { until: "2036-12-24T17:00:00.000Z", zone: "Europe/London", to: two.to },
      },
    },
    contents: {
      titles: {
        props: { depth: 3 },
        beside: (newId) =>
          [1, 2, 3].map((level) =>
            createBlock("heading", newId, { level, words: phrase(`Heading of level ${level}`) }),
          ),
      },
    },
    divider: { short: { props: { share: 30, thickness: 3, colour: "accent" } } },
    spacer: { narrow: { props: { height: 80, narrow: 16 } } },
    qrCode: { read: { props: { parts: { caption: true, address: true } } } },
    footer: { "sent-to": { props: { parts: { sentTo: true } } } },
    linksRow: {
      bars: { props: { between: "bar", underline: true } },
      stacked: { props: { onNarrow: "stack", between: "dot" } },
    },
    socialLinks: {
      words: { props: { words: true, shape: "square" } },
      bare: { props: { shape: "bare", ink: "accent" } },
    },
    card: {
      filled: { children: blocksOfCard },
      linked: { props: { to: web("https://larkmoor.example") }, children: blocksOfCard },
      plain: {
        props: { ground: "tint", edge: { width: 0, colour: "line" } },
        children: blocksOfCard,
      },
    },
    masthead: {
      logo: {
        props: {
          ...shown,
          parts: { logo: true, issue: true, links: true, webVersion: true },
          layout: "sides",
          size: 120,
        },
      },
      issue: {
        props: {
          ...{ ...shown, dark: { picture } },
          issue: line("Issue 12, winter"),
          parts: { logo: true, issue: true, links: false, webVersion: false },
        },
      },
    },
    html: {
      picture: {
        props: {
          source: `<p>Ours</p><img src="https://larkmoor.example/a.png" width="1200" height="300" alt="A wide picture">`,
        },
      },
      odd: {
        props: {
          source: `<h3>Own</h3><script>alert(1)</script><ul><li style="position:fixed">One</li></ul><a href="https://larkmoor.example/?n={{ contact.first_name }}">Go</a>`,
        },
      },
    },
  };
};

const gridPictures = (newId: () => string, count: number, shown: object) =>
  Array.from({ length: count }, (_, i) => {
    const [kind] = BLOCKS.find(({ type }) => type === "pictureGrid")!.holds!;
    return createItem(kind!, newId, { ...shown, caption: line(`Picture ${i + 1}`) });
  });
