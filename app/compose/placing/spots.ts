/** Places in the email where something can be put down, and what each is called. */
import type { BandProps } from "#core/blocks/layout.ts";
import { theOf } from "#core/blocks/names.ts";
import {
  CARD,
  type DocNode,
  type EmailDocument,
  find,
  holdsBlocks,
  isBlock,
  isItemList,
  mayHold,
  pathTo,
} from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { type Load, levelOf, typesOf } from "./load.ts";

/** Under a parent, after a sibling; blocks under the email get a band of their own. */
export interface StackSpot {
  readonly parent: string;
  readonly after: string | null;
}
/** Beside a block, in a column of its own. */
export interface BesideSpot {
  readonly beside: string;
  readonly side: "left" | "right";
}
export type Spot = StackSpot | BesideSpot;

export const isBeside = (spot: Spot): spot is BesideSpot => "beside" in spot;

/** The siblings on both sides of a spot. */
export function neighboursOf(
  doc: EmailDocument,
  { parent, after }: StackSpot,
): { parent: DocNode | undefined; above: DocNode | undefined; below: DocNode | undefined } {
  const node = find(doc, parent)?.node;
  const siblings = node?.children ?? [];
  const at = after === null ? 0 : siblings.findIndex((one) => one.id === after) + 1;
  return { parent: node, above: siblings[at - 1], below: siblings[at] };
}

/** Says in words where a spot is. */
export function wordsFor(doc: EmailDocument, spot: Spot): string {
  if (isBeside(spot)) {
    const block = find(doc, spot.beside)?.node;
    return `${spot.side} of ${block ? theOf(block) : "the block"}, in a column of its own`;
  }
  const { parent, above, below } = neighboursOf(doc, spot);
  const whole = parent === doc.root ? ", full width" : "";
  if (above && below) return `between ${theOf(above)} and ${theOf(below)}${whole}`;
  if (above) return `below ${theOf(above)}${whole}`;
  if (below) return `above ${theOf(below)}${whole}`;
  if (parent === doc.root) return "into the email";
  if (parent && isItemList(parent.type)) return "into the design of its items";
  return parent?.type === CARD ? "into the card" : "into the empty column";
}

/** Whether all of a load may stand directly under a node. */
export const fits = (doc: EmailDocument, load: Load, parent: DocNode): boolean =>
  typesOf(doc, load).every((type) => mayHold(parent.type, type));

/** A band that can be cut in two without its look being torn apart. */
const plain = ({ border, corner, picture, minHeight }: BandProps) =>
  border.width === 0 && corner === 0 && picture === null && minHeight === 0;

/**
 * Why nothing can be put beside a block, in words; null where something can: its band has room for one more column,
 * and is either already in columns, holds nothing else, or can be cut above and below the block.
 */
export function whyNotBeside(doc: EmailDocument, block: string): string | null {
  const [, band, column, outer] = pathTo(doc, block);
  if (!band || !column || outer?.id !== block) return "a card is not parted into columns";
  if (band.children.length >= LIMITS.columnsPerBand) {
    return `a band has at most ${LIMITS.columnsPerBand} columns`;
  }
  const free =
    band.children.length > 1 ||
    column.children.length === 1 ||
    plain(band.props as unknown as BandProps);
  return free ? null : "a band with a border, an image or a height stays whole";
}
export const mayBeBeside = (doc: EmailDocument, block: string): boolean =>
  whyNotBeside(doc, block) === null;

/** Every spot a load can be put down at, top to bottom. */
export function spotsFor(doc: EmailDocument, load: Load): StackSpot[] {
  const level = levelOf(doc, load);
  const spots: StackSpot[] = [];
  const moved = new Set(load.kind === "nodes" ? load.ids : []);
  const stack = (parent: DocNode) => {
    if (fits(doc, load, parent)) spots.push({ parent: parent.id, after: null });
    for (const child of parent.children) {
      if (moved.has(child.id)) continue;
      if (holdsBlocks(child.type)) stack(child);
      if (fits(doc, load, parent)) spots.push({ parent: parent.id, after: child.id });
    }
  };
  if (level === "item") {
    const parent = load.kind === "nodes" && find(doc, load.ids[0] ?? "")?.parent;
    if (parent) stack(parent);
    return spots;
  }
  spots.push({ parent: doc.root.id, after: null });
  for (const band of doc.root.children) {
    if (level === "block") for (const column of band.children) stack(column);
    if (!moved.has(band.id)) spots.push({ parent: doc.root.id, after: band.id });
  }
  return spots;
}

/** New bands go between bands; new blocks after the selection: after a block, into a band, a column or a card, else the end before the footer. */
export function spotAfter(doc: EmailDocument, selected: string | null, load: Load): StackSpot {
  const path = selected ? pathTo(doc, selected) : [];
  const [, band, column] = path;
  const end = (parent: DocNode) => ({
    parent: parent.id,
    after: parent.children.at(-1)?.id ?? null,
  });
  if (band && levelOf(doc, load) === "band") return { parent: doc.root.id, after: band.id };
  const within = path.findLastIndex(
    (node, i) => isBlock(node.type) && fits(doc, load, path[i - 1]!),
  );
  const last = path.at(-1);
  if (last && holdsBlocks(last.type) && fits(doc, load, last)) return end(last);
  if (within > 0) return { parent: path[within - 1]!.id, after: path[within]!.id };
  if (column) return end(column);
  if (band) return end(band.children[0]!);
  const bands = doc.root.children;
  const footer = bands.at(-1)?.children.some((c) => c.children.some((b) => b.type === "footer"));
  return { parent: doc.root.id, after: (footer ? bands.at(-2) : bands.at(-1))?.id ?? null };
}
