/** Where a drag would land: the spot under the pointer, found from rectangles, with the line that shows it. */
import { nameOf } from "#core/blocks/names.ts";
import { type DocNode, type EmailDocument, find, holdsBlocks } from "#core/document/index.ts";
import type { Box } from "../sheets/view.ts";
import { type Load, levelOf } from "./load.ts";
import {
  type BesideSpot,
  fits,
  isBeside,
  neighboursOf,
  type Spot,
  whyNotBeside,
  wordsFor,
} from "./spots.ts";

/** A line in the pixels of what it is drawn over; one with a height stands upright. */
export interface Line {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height?: number;
}
export interface Landing {
  readonly spot: Spot;
  readonly words: string;
  readonly line: Line;
}

export interface Point {
  readonly x: number;
  readonly y: number;
}
/** The rectangle of a node, or null where it is not shown. */
export type BoxOf = (id: string) => Box | null;

/** How near to a band's edge a block has to be to get a band of its own, px of the frame. */
const EDGE = 12;

/** How far inside a card a point has to be to land in it, px of the frame. */
const CARD_EDGE = 16;

/** How near to the side of a block a point has to be to land beside it: a share of its width, at most so many px. */
const SIDE = { share: 0.16, most: 48 };

const bottom = (box: Box) => box.y + box.height;
const middle = (box: Box) => box.y + box.height / 2;

/** The index a point falls on in a stack of boxes: how many of them it is past the middle of. */
const indexAt = (boxes: readonly Box[], y: number) => boxes.filter((box) => y > middle(box)).length;

/** The line that shows a spot. */
export function lineFor(doc: EmailDocument, spot: Spot, boxOf: BoxOf): Line {
  if (isBeside(spot)) {
    const box = boxOf(spot.beside);
    if (!box) return { x: 0, y: 0, width: 4, height: 40 };
    const x = spot.side === "left" ? box.x : box.x + box.width;
    return { x, y: box.y, width: 4, height: box.height };
  }
  const { parent, above, below } = neighboursOf(doc, spot);
  const [over, under] = [above && boxOf(above.id), below && boxOf(below.id)];
  const around = (parent && parent !== doc.root && boxOf(parent.id)) || over || under;
  const { x, width } = around || { x: 0, width: 600 };
  const y = over ? bottom(over) : (under?.y ?? (around ? middle(around) : 0));
  return { x, y, width };
}

const landingFor = (doc: EmailDocument, spot: Spot, boxOf: BoxOf): Landing => ({
  spot,
  words: wordsFor(doc, spot),
  line: lineFor(doc, spot, boxOf),
});

interface Placed {
  readonly node: DocNode;
  readonly box: Box;
}
const placed = (nodes: readonly DocNode[], boxOf: BoxOf): Placed[] =>
  nodes
    .map((node) => ({ node, box: boxOf(node.id) }))
    .filter((one): one is Placed => one.box !== null);

/**
 * The landing of a load at a point of a sheet, or null where it cannot land. `boxOf` gives the rectangle
 * of a node in the frame; `columns` tells whether columns stand side by side there.
 */
export function landingAt(
  doc: EmailDocument,
  load: Load,
  point: Point,
  boxOf: BoxOf,
  columns = true,
): Landing | null {
  const level = levelOf(doc, load);
  if (level === "item") return load.kind === "nodes" ? amongItems(doc, load, point, boxOf) : null;
  const { spot, why } = spotAt(doc, load, point, boxOf, columns);
  const landing = landingFor(doc, spot, boxOf);
  // Where a hand asks for a spot that is not offered, it is told why.
  return why === null ? landing : { ...landing, words: `${landing.words}: ${why}` };
}

function spotAt(
  doc: EmailDocument,
  load: Load,
  point: Point,
  boxOf: BoxOf,
  sideBySide: boolean,
): { spot: Spot; why: string | null } {
  const bands = placed(doc.root.children, boxOf);
  const boxes = bands.map(({ box }) => box);
  const betweenBands = () => ({
    spot: { parent: doc.root.id, after: bands[indexAt(boxes, point.y) - 1]?.node.id ?? null },
    why: null,
  });
  const over = bands.find(({ box }) => point.y >= box.y && point.y <= bottom(box));
  if (levelOf(doc, load) === "band" || !over) return betweenBands();
  // The edge is narrower on low bands, so that their inside can still be reached.
  const edge = Math.min(EDGE, over.box.height / 5);
  if (point.y - over.box.y < edge || bottom(over.box) - point.y < edge) return betweenBands();

  const distance = ({ box }: Placed) =>
    Math.max(box.x - point.x, point.x - (box.x + box.width), 0) +
    Math.max(box.y - point.y, point.y - bottom(box), 0);
  const column = placed(over.node.children, boxOf).sort((a, b) => distance(a) - distance(b))[0];
  if (!column) return betweenBands();
  const beside = sideBySide ? sideAt(load, column, point, boxOf) : null;
  const why = beside && whyNotBeside(doc, beside.beside);
  if (beside && why === null) return { spot: beside, why };
  return { spot: inStack(doc, load, column, point, boxOf), why };
}

/** The block under the point where the point is near one of its sides, and which. */
function sideAt(load: Load, column: Placed, point: Point, boxOf: BoxOf): BesideSpot | null {
  const under = placed(column.node.children, boxOf).find(
    ({ box }) => point.y >= box.y && point.y <= bottom(box),
  );
  if (!under || (load.kind === "nodes" && load.ids.includes(under.node.id))) return null;
  const { box, node } = under;
  const side = Math.min(SIDE.most, box.width * SIDE.share);
  const left = point.x < box.x + side;
  if (!left && point.x < box.x + box.width - side) return null;
  return { beside: node.id, side: left ? "left" : "right" };
}

/** Between the blocks of a column, or of a card where the point is well inside one. */
function inStack(doc: EmailDocument, load: Load, stack: Placed, point: Point, boxOf: BoxOf): Spot {
  const blocks = placed(stack.node.children, boxOf);
  const card = blocks.find(
    ({ node, box }) =>
      holdsBlocks(node.type) &&
      fits(doc, load, node) &&
      point.y > box.y + CARD_EDGE &&
      point.y < bottom(box) - CARD_EDGE,
  );
  if (card) return inStack(doc, load, card, point, boxOf);
  const at = indexAt(
    blocks.map(({ box }) => box),
    point.y,
  );
  return { parent: stack.node.id, after: blocks[at - 1]?.node.id ?? null };
}

/** Among the items of the same kind: before or after the nearest, across or down as they stand. */
function amongItems(
  doc: EmailDocument,
  load: Load & { kind: "nodes" },
  point: Point,
  boxOf: BoxOf,
): Landing | null {
  const at = find(doc, load.ids[0] ?? "");
  if (!at?.parent) return null;
  const items = placed(
    at.parent.children.filter((child) => child.type === at.node.type),
    boxOf,
  );
  const away = ({ box }: Placed) =>
    Math.hypot(box.x + box.width / 2 - point.x, middle(box) - point.y);
  const nearest = items.toSorted((a, b) => away(a) - away(b))[0];
  if (!nearest) return null;
  const { box, node } = nearest;
  const beside = items.some(({ box: other }) => other !== box && Math.abs(other.y - box.y) < 4);
  const after = beside ? point.x > box.x + box.width / 2 : point.y > middle(box);
  const siblings = at.parent.children;
  const before = siblings[siblings.indexOf(node) - 1]?.id ?? null;
  const line = beside
    ? { x: after ? box.x + box.width : box.x, y: box.y, width: 4, height: box.height }
    : { x: box.x, y: after ? bottom(box) : box.y, width: box.width };
  return {
    spot: { parent: at.parent.id, after: after ? node.id : before },
    words: `${after ? "after" : "before"} ${nameOf(node)}`,
    line,
  };
}
