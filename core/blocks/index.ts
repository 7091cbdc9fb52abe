/**
 * The list of block types. A new one is a file beside this one and a line in `BLOCKS`; the tray, the
 * settings, the renderer, the checks and the server's validation all read this list.
 */
import type { z } from "zod";
import {
  type DocNode,
  EditError,
  type EmailDocument,
  mayHold,
  SCHEMA_VERSION,
  walk,
} from "../document/index.ts";
import { type Json, type JsonObject, under } from "../json.ts";
import type { BlockProps } from "../kinds/common.ts";
import type { AnyItemKind, AnyNodeKind, BlockGroup, BlockKind, TextField } from "../kinds/kind.ts";
import { translationsSchema } from "../kinds/translations.ts";
import { type Late, together } from "../late.ts";
import { article } from "./article.ts";
import { button } from "./button.ts";
import { captionedPicture } from "./captioned-picture.ts";
import { card } from "./card.ts";
import { contents } from "./contents.ts";
import { countdown } from "./countdown.ts";
import { coupon } from "./coupon.ts";
import { digest } from "./digest.ts";
import { divider } from "./divider.ts";
import { event, events } from "./events.ts";
import { footer } from "./footer.ts";
import { heading } from "./heading.ts";
import { ownHtml } from "./html.ts";
import { image } from "./image.ts";
import { bandSchema, columnSchema, emailSchema, newBand, newColumn, newEmail } from "./layout.ts";
import { linksRow } from "./links-row.ts";
import { masthead } from "./masthead.ts";
import { pictureAndWords } from "./picture-and-words.ts";
import { pictureGrid } from "./picture-grid.ts";
import { placeholderSchema, withPlaceholders } from "./placeholders.ts";
import { qrCode } from "./qr-code.ts";
import { question } from "./question.ts";
import { quote } from "./quote.ts";
import { shareRow } from "./share-row.ts";
import { product, shelf } from "./shelf.ts";
import { signOff } from "./sign-off.ts";
import { socialLinks } from "./social-links.ts";
import { spacer } from "./spacer.ts";
import { table } from "./table.ts";
import { text } from "./text.ts";
import { video } from "./video.ts";

// biome-ignore lint/suspicious/noExplicitAny: each kind has props of its own; its schema keeps them apart
export const BLOCKS: readonly BlockKind<any>[] = [
  heading,
  text,
  quote,
  table,
  contents,
  signOff,
  image,
  pictureAndWords,
  captionedPicture,
  pictureGrid,
  video,
  button,
  coupon,
  countdown,
  linksRow,
  socialLinks,
  shareRow,
  qrCode,
  question,
  product,
  shelf,
  article,
  digest,
  event,
  events,
  divider,
  spacer,
  card,
  masthead,
  footer,
  ownHtml,
];

export const GROUPS: Record<BlockGroup, string> = {
  words: "Text",
  pictures: "Images",
  actions: "Actions",
  layout: "Layout",
  live: "Live",
  own: "Own",
};

const blocks = new Map(BLOCKS.map((kind) => [kind.type, kind]));
const items = new Map<string, AnyItemKind>();
const collect = (kind: AnyNodeKind) => {
  for (const item of kind.holds ?? []) {
    items.set(item.type, item);
    collect(item);
  }
};
for (const kind of BLOCKS) collect(kind);

/** The kind of a block type, or null for anything else. */
export const blockKind = (type: string): BlockKind<BlockProps> | null => blocks.get(type) ?? null;
/** The kind of an item type, or null for anything else. */
export const itemKind = (type: string): AnyItemKind | null => items.get(type) ?? null;
/** The kind of a block or an item, or null for `email`, `band`, `column` and unknown types. */
export const nodeKind = (type: string): AnyNodeKind | null =>
  blocks.get(type) ?? items.get(type) ?? null;

/** All that is brought only for some blocks. */
export const LATE = together(BLOCKS.flatMap(({ late }) => late ?? []));

/** Blocks in a node that are empty until what they are rendered with has been brought. */
export function* lateIn(node: DocNode): Generator<{ node: DocNode; late: Late<unknown> }> {
  if (LATE.now()) return;
  for (const one of walk(node)) {
    const late = blocks.get(one.type)?.late;
    if (late && !late.now()) yield { node: one, late };
  }
}

/** Whether all there is in a node can be rendered. */
export const isWhole = (node: DocNode): boolean => lateIn(node).next().done === true;

const LAYOUT = { email: emailSchema, band: bandSchema, column: columnSchema } as const;
const LAYOUT_LABELS: Record<string, string> = { email: "Email", band: "Band", column: "Column" };

/** What a node is called on screen. */
export const labelOf = (node: DocNode): string =>
  under(LAYOUT_LABELS, node.type) ?? nodeKind(node.type)?.label ?? node.type;

const ENVELOPE_TEXTS: readonly TextField[] = [
  { path: ["envelope", "fromName"], kind: "line", label: "From" },
  { path: ["envelope", "subject"], kind: "line", label: "Subject" },
  { path: ["envelope", "preview"], kind: "line", label: "Preview text" },
];

/** Where texts stand in a node of this type. */
export const textsOf = (type: string): readonly TextField[] =>
  type === "email" ? ENVELOPE_TEXTS : (nodeKind(type)?.texts ?? []);

/** What every node can have beside the properties of its kind: translations, and marks of words to be written over. */
function apart(props: DocNode["props"]) {
  const { tr, placeholder, ...own } = props as { readonly [name: string]: Json | undefined };
  return { tr, placeholder, own };
}

/** Whether properties fit a kind of block or item. */
export const propsFit = (type: string, props: DocNode["props"]): boolean =>
  nodeKind(type)?.schema.safeParse(apart(props).own).success ?? false;

/**
 * Checks the properties of a node (not of those under it) and gives it back with them in normal form.
 * Throws an EditError that names the first thing wrong.
 */
export function checkNode(node: DocNode): DocNode {
  const schema: z.ZodType | undefined = under(LAYOUT, node.type) ?? nodeKind(node.type)?.schema;
  if (!schema) throw new EditError("invalid", `There is no block type “${node.type}”.`);
  const { tr, placeholder, own } = apart(node.props);
  if (placeholder !== undefined && !placeholderSchema.safeParse(placeholder).success) {
    throw new EditError("invalid", `${labelOf(node)}: these marks cannot be read.`);
  }
  const translations = tr === undefined ? null : translationsSchema.safeParse(tr);
  if (translations && !translations.success) {
    throw new EditError("invalid", `${labelOf(node)}: these translations cannot be read.`);
  }
  const result = schema.safeParse(own);
  if (!result.success) {
    const issue = result.error.issues[0]!;
    throw new EditError(
      "invalid",
      `${labelOf(node)}: ${issue.message} (${issue.path.join(" › ")})`,
    );
  }
  const props: DocNode["props"] = {
    ...(result.data as DocNode["props"]),
    ...(translations ? { tr: translations.data as unknown as Json } : {}),
    ...(placeholder === undefined ? {} : { placeholder }),
  };
  return { ...node, props };
}

/** Checks that a node holds as many items of each kind as it can. Throws an EditError. */
function checkItems(node: DocNode): void {
  for (const item of nodeKind(node.type)?.holds ?? []) {
    const count = node.children.filter((child) => child.type === item.type).length;
    const most = `${labelOf(node)}: at most ${item.most} ${item.plural.toLowerCase()}.`;
    if (count > item.most) throw new EditError("limit", most);
    if (count < item.least) {
      const what = item.least === 1 ? item.label : item.plural;
      const least = `${labelOf(node)}: at least ${item.least} ${what.toLowerCase()}.`;
      throw new EditError("limit", least);
    }
  }
}

const checked = new WeakSet<DocNode>();

/** Checks one node and what stands directly under it. Throws an EditError. */
export function checkPlace(node: DocNode): void {
  checkNode(node);
  for (const child of node.children) {
    if (!mayHold(node.type, child.type)) {
      throw new EditError("misplaced", `A ${child.type} cannot stand in a ${node.type}.`);
    }
  }
  checkItems(node);
}

/**
 * Checks every node of a document that has not been checked before: after an edit, only the nodes
 * from the change up to the root. Throws an EditError.
 */
export function checkDocument(doc: EmailDocument): void {
  const visit = (node: DocNode) => {
    if (checked.has(node)) return;
    checkPlace(node);
    for (const child of node.children) visit(child);
    checked.add(node);
  };
  if (doc.root.type !== "email") throw new EditError("invalid", "This is not an email.");
  visit(doc.root);
}

/** A new block with the properties and items it starts with. */
export function createBlock(
  type: string,
  newId: () => string,
  props: object = {},
  children?: readonly DocNode[],
  /** What it comes with: as the kind has it, or as a theme does. */
  start?: JsonObject,
): DocNode {
  const kind = blockKind(type);
  if (!kind) throw new EditError("invalid", `There is no block type “${type}”.`);
  const examples = kind.examples?.filter(([name]) => !Object.hasOwn(props, name!)) ?? [];
  return {
    id: newId(),
    type,
    props: withPlaceholders({ ...(start ?? kind.create()), ...props } as JsonObject, examples),
    children: children ?? kind.start?.(newId) ?? [],
  };
}

/** A new column with blocks in it. */
export const createColumn = (
  newId: () => string,
  blocks: readonly DocNode[] = [],
  share = 1,
): DocNode => ({ id: newId(), type: "column", props: { ...newColumn(share) }, children: blocks });

/** A new band with columns in it. */
export const createBand = (
  newId: () => string,
  columns: readonly DocNode[],
  props: Partial<ReturnType<typeof newBand>> = {},
): DocNode => ({
  id: newId(),
  type: "band",
  props: { ...newBand(), ...props } as unknown as DocNode["props"],
  children: columns,
});

/** A new email holding the bands given. */
export const createDocument = (
  bands: readonly DocNode[] = [],
  props: Partial<ReturnType<typeof newEmail>> = {},
): EmailDocument => ({
  schemaVersion: SCHEMA_VERSION,
  root: {
    id: "email",
    type: "email",
    props: { ...newEmail(), ...props } as unknown as DocNode["props"],
    children: bands,
  },
});
