/**
 * Every block in the shapes it can take, for the gallery and for tests that look at all of them. A new block
 * type is here at once with its defaults; what else it can do is a line in `VARIANTS`.
 */
import { BLOCKS, createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import { TABLE_KINDS } from "../blocks/table-items.ts";
import type { DocNode, EmailDocument } from "../document/index.ts";
import { createItem } from "../kinds/item.ts";
import { doc, line, paragraph, phrase, type TextJson, tag } from "../text/index.ts";
import { ids } from "./rendered.ts";

export interface Sample {
  /** Its name in addresses: `text`, `text-long`. */
  readonly name: string;
  readonly doc: EmailDocument;
}

const web = (address: string) => ({ kind: "web" as const, address: line(address) });
const marked = (text: string, ...marks: TextJson["marks"] & object): TextJson => ({
  type: "text",
  text,
  marks,
});
const SENTENCE =
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

interface Variant {
  readonly props?: object;
  readonly email?: object;
  readonly children?: (newId: () => string) => DocNode[];
}
type Variants = Record<string, Record<string, Variant>>;

const variants = (picture: string): Variants => {
  const alt = line("Rows of early white flowers along the brook");
  const shown = { picture, alt };
  const blocksOfCard = (newId: () => string) => [
    createBlock("image", newId, shown),
    createBlock("heading", newId, { words: phrase("In a card"), level: 3 }),
    createBlock("text", newId, { words: doc(SENTENCE) }),
    createBlock("button", newId, { to: web("https://larkmoor.example") }),
  ];
  return {
    heading: {
      two: { props: { level: 2 } },
      three: {
        props: {
          level: 3,
          type: { font: "mono", size: 20, lineHeight: 150, spacing: 20, capitals: true },
        },
      },
    },
    text: {
      rich: { props: { words: RICH } },
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
    quote: { stars: { props: { stars: 4 } } },
    table: {
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
      picture: { props: { ...shown, parts: { picture: true, greeting: true, role: true } } },
    },
    image: {
      shown: { props: shown },
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
    },
    captionedPicture: {
      under: { props: { ...shown, ground: "tint" } },
      over: { props: { ...shown, place: "over", ground: "accent", colour: "onAccent" } },
    },
    pictureGrid: {
      shown: {
        props: { perRow: 3, gap: 8, shape: 100 },
        children: (newId) => gridPictures(newId, 5, shown),
      },
      stacked: { props: { onNarrow: "stack" }, children: (newId) => gridPictures(newId, 4, shown) },
    },
    video: { shown: { props: { ...shown, to: web("https://larkmoor.example/film") } } },
    button: { full: { props: { wide: "full", size: 20, to: web("https://larkmoor.example") } } },
    coupon: { bare: { props: { parts: { title: false, terms: false } } } },
    linksRow: {
      bars: { props: { between: "bar", underline: true } },
      stacked: { props: { onNarrow: "stack", between: "dot" } },
    },
    socialLinks: { words: { props: { words: true, shape: "square" } } },
    card: {
      filled: { children: blocksOfCard },
      plain: {
        props: { ground: "tint", edge: { width: 0, colour: "line" } },
        children: blocksOfCard,
      },
    },
    masthead: {
      logo: {
        props: {
          ...shown,
          parts: { logo: true, links: true, webVersion: true },
          layout: "sides",
          size: 120,
        },
      },
    },
    html: {
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

/** Bands in the shapes they can take. */
function bands(picture: string): Sample[] {
  const columns = (newId: () => string, shares: readonly number[]) =>
    shares.map((share, i) =>
      createColumn(
        newId,
        [
          createBlock("heading", newId, { words: phrase(`Column ${i + 1}`), level: 3 }),
          createBlock("text", newId, { words: doc(SENTENCE) }),
        ],
        share,
      ),
    );
  const band = (
    name: string,
    shares: readonly number[],
    props: Parameters<typeof createBand>[2] = {},
    email: object = {},
  ): Sample => {
    const newId = ids("s");
    const node = createBand(newId, columns(newId, shares), props);
    return { name: `band-${name}`, doc: createDocument([node], email) };
  };
  const room = { top: 16, right: 16, bottom: 16, left: 16 };
  return [
    band("stack", [1, 1]),
    band("reverse", [30, 70], { onNarrow: "reverse", valign: "middle" }),
    band("keep", [1, 1], { onNarrow: "keep", valign: "bottom" }),
    band("four", [1, 1, 1, 1]),
    band("framed", [1], {
      border: { width: 2, colour: "accent" },
      corner: 16,
      padding: room,
      outer: room,
      background: "tint",
    }),
    band("picture", [1], { picture, background: "tint", minHeight: 240 }),
    band("full", [1], { picture, background: "accent", fullWidth: true, padding: room }),
    band("rtl", [30, 70], {}, { dir: "rtl", lang: "ar" }),
  ];
}

/** All samples, with a picture of the surroundings they will be rendered in. */
export function samples(picture: string): Sample[] {
  const all = variants(picture);
  const blocks = BLOCKS.flatMap(({ type }) => {
    const made = (name: string, { props = {}, email = {}, children }: Variant): Sample => {
      const newId = ids("s");
      const block = createBlock(type, newId, props, children?.(newId));
      const column = createColumn(newId, [block]);
      return { name, doc: createDocument([createBand(newId, [column])], email) };
    };
    return [
      made(type, {}),
      ...Object.entries(all[type] ?? {}).map(([name, variant]) => made(`${type}-${name}`, variant)),
    ];
  });
  return [...blocks, ...bands(picture)];
}
