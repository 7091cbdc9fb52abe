/** What the templates that ship are put together of. */
import {
  blockKind,
  createBand,
  createBlock,
  createColumn,
  createDocument,
  itemKind,
  nodeKind,
} from "../blocks/index.ts";
import { withPlaceholders } from "../blocks/placeholders.ts";
import { PLAIN_TYPE } from "../blocks/type-style.ts";
import type { DocNode, EmailDocument, ItemList } from "../document/index.ts";
import type { Json } from "../json.ts";
import { box, pad } from "../kinds/common.ts";
import { createItem } from "../kinds/item.ts";
import { doc, line, paragraph, phrase, type TextJson, tag } from "../text/index.ts";

/** Images that stand in templates where there are some, by what they show; else their places stay empty. */
export const SCENES = ["field", "path", "house", "goods"] as const;
export type Scene = (typeof SCENES)[number];
export type Scenes = Readonly<Record<Scene, { readonly picture: string; readonly alt: string }>>;

type Props = Record<string, unknown>;
/** What stands in a column, and how wide it is beside the others. */
export type Part = readonly [blocks: readonly DocNode[], share?: number];

const wordsOf = (paragraphs: readonly (string | TextJson)[]) =>
  doc(...paragraphs.map((one) => (typeof one === "string" ? paragraph(one) : one)));

/** Makes the parts of one template: their ids count on. */
export function kitOf(scenes: Scenes | null) {
  let n = 0;
  const id = () => `t${++n}`;
  const block = (type: string, props: Props = {}, children?: DocNode[]) =>
    createBlock(type, id, props, children);
  const item = (type: string, props: Props) => createItem(itemKind(type)!, id, props);
  const scene = (which: Scene | null): Props =>
    which && scenes ? { picture: scenes[which].picture, alt: line(scenes[which].alt) } : {};
  return {
    id,
    block,
    item,
    scene,
    band: (name: string, blocks: DocNode[], props: Props = {}) =>
      createBand(id, [createColumn(id, blocks)], { name, ...props }),
    columns: (name: string, columns: readonly Part[], props: Props = {}) =>
      createBand(
        id,
        columns.map(([blocks, share]) => createColumn(id, blocks, share)),
        { name, ...props },
      ),
    heading: (words: string, level: 1 | 2 | 3 = 1, props: Props = {}) =>
      block("heading", { words: phrase(words), level, ...props }),
    text: (...paragraphs: (string | TextJson)[]) => block("text", { words: wordsOf(paragraphs) }),
    /** The same in the middle, with so much room beside it (px). */
    centred: (words: string, side: number, props: Props = {}) =>
      block("text", { words: wordsOf([words]), box: box(pad(4, side, 12), "center"), ...props }),
    button: (label: string, props: Props = {}) => block("button", { label: line(label), ...props }),
    /** An image from edge to edge. */
    wide: (which: Scene) => block("image", { box: box(pad(0, 0), "center"), ...scene(which) }),
    /** A block of live items in one of its designs. */
    live(type: ItemList, design: string, choice: Props) {
      const own = blockKind(type)!.designs!.find((one) => one.id === design)!;
      const all: Props = { ...block(type).props, ...own.props };
      return block(
        type,
        { ...own.props, choice: { ...(all.choice as Props), ...choice } },
        own.blocks(id),
      );
    },
  };
}
export type Kit = ReturnType<typeof kitOf>;

/** The name on a ground of the accent. */
export const nameOnAccent = ({ band, block }: Kit, props: Props = {}) =>
  band(
    "Masthead",
    [block("masthead", { name: line("YOUR NAME HERE"), colour: "onAccent", ...props })],
    { background: "accent" },
  );

/** The name in the accent on the sheet. */
export const nameOnSheet = ({ band, block }: Kit, props: Props = {}) =>
  band("Masthead", [
    block("masthead", {
      name: line("Your name here"),
      type: { ...PLAIN_TYPE, spacing: 10 },
      box: box(pad(22, 28, 10), "start"),
      ...props,
    }),
  ]);

export const footerOf = ({ band, block }: Kit, rule = true) =>
  band("Footer", [...(rule ? [block("divider")] : []), block("footer")]);

/** “Dear Ada,” with what is said to those without a first name. */
export const dear = (fallback: string) =>
  paragraph("Dear ", tag("contact:first_name", fallback), ",");

/** What a template says is there to be written over, where a block's own words are. */
const toBeWritten = (node: DocNode): DocNode => ({
  ...node,
  props: withPlaceholders(node.props, nodeKind(node.type)?.examples ?? []) as Record<string, Json>,
  children: node.children.map(toBeWritten),
});

/** The email of a template: its sender and subject are whoever starts from it to say. */
export const templateOf = (bands: readonly DocNode[]): EmailDocument =>
  createDocument(bands.map(toBeWritten), {
    envelope: { fromName: line(), fromAddress: "", replyTo: "", subject: line(), preview: line() },
  });
