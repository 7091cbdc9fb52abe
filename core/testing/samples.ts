/**
 * Every block in the shapes it can take, for the gallery and for tests that look at all of them. A new block
 * type is here at once with its defaults; what else it can do is a line in variants.ts.
 */
import { choicesIn } from "../blocks/choices.ts";
import { BLOCKS, createBand, createBlock, createColumn, createDocument } from "../blocks/index.ts";
import type { EmailDocument } from "../document/index.ts";
import type { LiveList } from "../kinds/kind.ts";
import { doc, phrase } from "../text/index.ts";
import { itemsOf } from "./items.ts";
import { ids } from "./rendered.ts";
import { type SamplePictures, SENTENCE, type Variant, variants } from "./variants.ts";

export interface Sample {
  /** Its name in addresses: `text`, `text-long`. */
  readonly name: string;
  readonly doc: EmailDocument;
  /** What its blocks of items show. */
  readonly live: ReadonlyMap<string, LiveList>;
}
type Drawn = Omit<Sample, "live">;

/** Bands in the shapes they can take. */
function bands({ picture }: SamplePictures): Drawn[] {
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
  ): Drawn => {
    const newId = ids("s");
    const node = createBand(newId, columns(newId, shares), props);
    return { name: `band-${name}`, doc: createDocument([node], email) };
  };
  /** Cards of one height beside each other, whatever is in them. */
  const cards = (): Drawn => {
    const newId = ids("s");
    const card = (words: string) =>
      createColumn(newId, [
        createBlock("card", newId, {}, [createBlock("text", newId, { words: doc(words) })]),
      ]);
    const node = createBand(newId, [card("Short."), card(SENTENCE)], {
      onNarrow: "keep",
      even: true,
    });
    return { name: "band-cards", doc: createDocument([node]) };
  };
  const room = { top: 16, right: 16, bottom: 16, left: 16 };
  return [
    band("stack", [1, 1]),
    band("reverse", [30, 70], { onNarrow: "reverse", valign: "middle" }),
    band("keep", [1, 1], { onNarrow: "keep", valign: "bottom" }),
    band("four-kept", [1, 1, 1, 1], { onNarrow: "keep" }),
    band("four", [1, 1, 1, 1]),
    band("framed", [1], {
      border: { width: 2, colour: "accent" },
      corner: 16,
      padding: room,
      outer: room,
      background: "tint",
    }),
    band("picture", [1], { picture, background: "tint", minHeight: 240 }),
    band("full", [1], { picture, background: "tint", fullWidth: true, padding: room }),
    band("focus", [1], { picture, minHeight: 120, focus: { x: 0, y: 100 } }),
    cards(),
    band("rtl", [30, 70], {}, { dir: "rtl", lang: "ar" }),
  ];
}

const shown = ({ doc }: Drawn, picture: string): Sample["live"] =>
  new Map(
    choicesIn(doc).map(({ node, kind, choice }) => [
      node,
      { items: itemsOf(kind, picture).slice(0, choice.count), perReader: null },
    ]),
  );

/** All samples, with pictures of the surroundings they will be rendered in; the first stands in for more. */
export function samples([picture, tall = picture]: readonly [string, ...string[]]): Sample[] {
  const pictures = { picture, tall };
  const all = variants(pictures);
  const blocks = BLOCKS.flatMap(({ type, designs = [] }) => {
    const made = (name: string, { props = {}, email = {}, children, beside }: Variant): Drawn => {
      const newId = ids("s");
      const block = createBlock(type, newId, props, children?.(newId));
      const column = createColumn(newId, [block, ...(beside?.(newId) ?? [])]);
      return { name, doc: createDocument([createBand(newId, [column])], email) };
    };
    return [
      made(type, {}),
      ...Object.entries(all[type] ?? {}).map(([name, variant]) => made(`${type}-${name}`, variant)),
      // The first is how it comes.
      ...designs
        .slice(1)
        .map(({ id, props, blocks }) => made(`${type}-${id}`, { props, children: blocks })),
    ];
  });
  return [...blocks, ...bands(pictures)].map((drawn) => ({
    ...drawn,
    live: shown(drawn, picture),
  }));
}
