/** Where a drag over the running order would land. */
import {
  type DocNode,
  type EmailDocument,
  find,
  holdsBlocks,
  isItem,
  pathTo,
} from "#core/document/index.ts";
import type { Landing } from "./landing.ts";
import { type Load, levelOf } from "./load.ts";
import { fits, type StackSpot, wordsFor } from "./spots.ts";

/** A row of the running order; top and bottom in the pixels of the list. */
export interface OrderRow {
  readonly id: string;
  readonly top: number;
  readonly bottom: number;
}

/** How much of a band's row, from its top, is the place before the band. */
const BEFORE_BAND = 0.35;

interface Found {
  readonly spot: StackSpot;
  readonly y: number;
}

/** The landing at a height of the running order, or null where nothing can land. */
export function orderLanding(
  doc: EmailDocument,
  load: Load,
  y: number,
  rows: readonly OrderRow[],
): Landing | null {
  const level = levelOf(doc, load);
  const found =
    level === "band"
      ? amongBands(doc, y, rows)
      : level === "item"
        ? amongItems(doc, load, y, rows)
        : amongBlocks(doc, load, y, rows);
  if (!found) return null;
  return {
    spot: found.spot,
    words: wordsFor(doc, found.spot),
    line: { x: 0, y: found.y, width: 0 },
  };
}

/** The rows of a node and of everything under it. */
function reachOf(doc: EmailDocument, id: string, rows: readonly OrderRow[]) {
  const own = rows.filter((row) => pathTo(doc, row.id).some((node) => node.id === id));
  const [first, last] = [own[0], own.at(-1)];
  return first && last ? { top: first.top, bottom: last.bottom } : null;
}

function amongBands(doc: EmailDocument, y: number, rows: readonly OrderRow[]): Found {
  let at: Found = { spot: { parent: doc.root.id, after: null }, y: rows[0]?.top ?? 0 };
  for (const band of doc.root.children) {
    const reach = reachOf(doc, band.id, rows);
    if (!reach || y < (reach.top + reach.bottom) / 2) break;
    at = { spot: { parent: doc.root.id, after: band.id }, y: reach.bottom };
  }
  return at;
}

function amongItems(
  doc: EmailDocument,
  load: Load,
  y: number,
  rows: readonly OrderRow[],
): Found | null {
  const at = load.kind === "nodes" ? find(doc, load.ids[0] ?? "") : null;
  if (!at?.parent) return null;
  const items = at.parent.children.filter((child) => child.type === at.node.type);
  let found: Found | null = null;
  for (const item of items) {
    const reach = reachOf(doc, item.id, rows);
    if (!reach) continue;
    const before = at.parent.children[at.parent.children.indexOf(item) - 1]?.id ?? null;
    found ??= { spot: { parent: at.parent.id, after: before }, y: reach.top };
    if (y < (reach.top + reach.bottom) / 2) break;
    found = { spot: { parent: at.parent.id, after: item.id }, y: reach.bottom };
  }
  return found;
}

function amongBlocks(
  doc: EmailDocument,
  load: Load,
  y: number,
  rows: readonly OrderRow[],
): Found | null {
  const [first, last] = [rows[0], rows.at(-1)];
  const root = doc.root.id;
  if (!first || !last) return { spot: { parent: root, after: null }, y: 0 };
  if (y >= last.bottom) {
    return { spot: { parent: root, after: doc.root.children.at(-1)!.id }, y: last.bottom };
  }
  const row = rows.find((one) => y < one.bottom) ?? first;
  const upper = (y - row.top) / (row.bottom - row.top);
  const at = find(doc, row.id);
  if (!at?.parent) return null;
  const { node, parent, index } = at;
  const before = (siblings: readonly DocNode[], i: number) => siblings[i - 1]?.id ?? null;
  if (node.type === "band") {
    if (upper < BEFORE_BAND) {
      return { spot: { parent: root, after: before(parent.children, index) }, y: row.top };
    }
    return { spot: { parent: node.children[0]!.id, after: null }, y: row.bottom };
  }
  if (isItem(node.type)) {
    const block = pathTo(doc, node.id).findLast((one) => !isItem(one.type))!;
    const place = find(doc, block.id)!;
    const reach = reachOf(doc, block.id, rows)!;
    return { spot: { parent: place.parent!.id, after: block.id }, y: reach.bottom };
  }
  if (!fits(doc, load, parent)) {
    // A card cannot stand in a card: then beside the one it is over.
    const outer = find(doc, parent.id)!;
    const reach = reachOf(doc, parent.id, rows)!;
    return { spot: { parent: outer.parent!.id, after: parent.id }, y: reach.bottom };
  }
  if (upper < 0.5)
    return { spot: { parent: parent.id, after: before(parent.children, index) }, y: row.top };
  if (holdsBlocks(node.type) && fits(doc, load, node)) {
    return { spot: { parent: node.id, after: null }, y: row.bottom };
  }
  return { spot: { parent: parent.id, after: node.id }, y: row.bottom };
}
