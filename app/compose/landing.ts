/** Where a drag would land: found from rectangles, said in words. */
import { itemKind, labelOf } from "#core/blocks/index.ts";
import {
  CARD,
  type DocNode,
  type EmailDocument,
  find,
  isItem,
  mayHold,
} from "#core/document/index.ts";
import { isBlank, type TextJson, wordsOf } from "#core/text/index.ts";
import type { Load, Spot } from "./actions.ts";
import type { Box } from "./sheets/view.ts";

export interface Landing {
  readonly spot: Spot;
  readonly words: string;
  /** The line that shows it, in the frame's pixels; one with a height stands upright. */
  readonly line: {
    readonly x: number;
    readonly y: number;
    readonly width: number;
    readonly height?: number;
  };
}

/** How near to a band's edge a block has to be to get a band of its own, px of the frame. */
const EDGE = 12;

/** How far inside a card a point has to be to land in it, px of the frame. */
const CARD_EDGE = 16;

/** What a node is called in a sentence: a band by its name, a block by its kind. */
export function nameOf(node: DocNode): string {
  if (node.type === "band" && typeof node.props.name === "string" && node.props.name) {
    return node.props.name;
  }
  const words = node.props.words as unknown as TextJson | undefined;
  if (node.type === "heading" && words && !isBlank(words)) {
    return wordsOf(words).slice(0, 28);
  }
  const own = itemKind(node.type)?.name?.(node.props)?.slice(0, 28);
  return own || labelOf(node);
}

function between(above: DocNode | undefined, below: DocNode | undefined): string {
  if (above && below) return `between ${nameOf(above)} and ${nameOf(below)}`;
  if (above) return `below ${nameOf(above)}`;
  if (below) return `above ${nameOf(below)}`;
  return "into the empty column";
}

const bottom = (box: Box) => box.y + box.height;
const middle = (box: Box) => box.y + box.height / 2;

/** The index a point falls on in a stack of boxes: how many of them it is past the middle of. */
const indexAt = (boxes: readonly Box[], y: number) => boxes.filter((box) => y > middle(box)).length;

/**
 * The landing of a load at a point of a sheet, or null where it cannot land. `boxOf` gives the
 * rectangle of a node in the frame.
 */
export function landingAt(
  doc: EmailDocument,
  load: Load,
  point: { x: number; y: number },
  boxOf: (id: string) => Box | null,
): Landing | null {
  if (load.kind === "node" && isItem(load.type)) return amongItems(doc, load.id, point, boxOf);
  const bands = doc.root.children
    .map((node) => ({ node, box: boxOf(node.id) }))
    .filter((band): band is { node: DocNode; box: Box } => band.box !== null);
  const wholeBand = load.kind === "newBand" || (load.kind === "node" && load.type === "band");

  const betweenBands = (): Landing => {
    const at = indexAt(
      bands.map((band) => band.box),
      point.y,
    );
    const above = bands[at - 1];
    const below = bands[at];
    const y = above ? bottom(above.box) : (below?.box.y ?? 0);
    const box = (above ?? below)?.box ?? { x: 0, y: 0, width: 600, height: 0 };
    const words =
      above || below ? `${between(above?.node, below?.node)}, full width` : "into the email";
    return {
      spot: { parent: doc.root.id, after: above?.node.id ?? null },
      words,
      line: { x: box.x, y, width: box.width },
    };
  };

  const over = bands.find(({ box }) => point.y >= box.y && point.y <= bottom(box));
  if (wholeBand || !over) return betweenBands();
  // The edge is narrower on low bands, so that their inside can still be reached.
  const edge = Math.min(EDGE, over.box.height / 5);
  if (point.y - over.box.y < edge || bottom(over.box) - point.y < edge) return betweenBands();

  const columns = over.node.children
    .map((node) => ({ node, box: boxOf(node.id) }))
    .filter((column): column is { node: DocNode; box: Box } => column.box !== null);
  const distance = ({ box }: { box: Box }) =>
    Math.max(box.x - point.x, point.x - (box.x + box.width), 0) +
    Math.max(box.y - point.y, point.y - bottom(box), 0);
  const column = columns.sort((a, b) => distance(a) - distance(b))[0];
  if (!column) return betweenBands();
  const type = load.kind === "new" || load.kind === "node" ? load.type : "";
  return inStack(column, type, point, boxOf);
}

interface Placed {
  readonly node: DocNode;
  readonly box: Box;
}
const placed = (nodes: readonly DocNode[], boxOf: (id: string) => Box | null): Placed[] =>
  nodes
    .map((node) => ({ node, box: boxOf(node.id) }))
    .filter((one): one is Placed => one.box !== null);

/** Between the blocks of a column, or of a card where the point is well inside one. */
function inStack(
  column: Placed,
  type: string,
  point: { x: number; y: number },
  boxOf: (id: string) => Box | null,
): Landing {
  const blocks = placed(column.node.children, boxOf);
  const card = blocks.find(
    ({ node, box }) =>
      node.type === CARD &&
      mayHold(CARD, type) &&
      point.y > box.y + CARD_EDGE &&
      point.y < bottom(box) - CARD_EDGE,
  );
  if (card) {
    const inner = inStack(card, type, point, boxOf);
    return card.node.children.length ? inner : { ...inner, words: "into the card" };
  }
  const at = indexAt(
    blocks.map((block) => block.box),
    point.y,
  );
  const above = blocks[at - 1];
  const below = blocks[at];
  const y = above ? bottom(above.box) : (below?.box.y ?? column.box.y + column.box.height / 2);
  return {
    spot: { parent: column.node.id, after: above?.node.id ?? null },
    words: between(above?.node, below?.node),
    line: { x: column.box.x, y, width: column.box.width },
  };
}

/** Among the items of the same kind: before or after the nearest, across or down as they stand. */
function amongItems(
  doc: EmailDocument,
  id: string,
  point: { x: number; y: number },
  boxOf: (id: string) => Box | null,
): Landing | null {
  const at = find(doc, id);
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
