/** What a person does, as edits. */
import { createBand, createBlock, createColumn, itemKind } from "#core/blocks/index.ts";
import { newRow, TABLE_KINDS } from "#core/blocks/table-items.ts";
import {
  blockOf,
  CARD,
  type DocNode,
  type Edit,
  type EmailDocument,
  find,
  isBlock,
  isItem,
  mayHold,
  pathTo,
  type SimpleEdit,
  withNewIds,
} from "#core/document/index.ts";
import { createItem } from "#core/kinds/item.ts";
import { newNodeId } from "./ids.ts";
import {
  addColumn,
  columnsOf,
  duplicateColumn,
  isTableColumn,
  moveColumn,
  shiftColumn,
  takeOutColumn,
} from "./table-columns.ts";

/** Where something goes: under a parent, after a sibling. Blocks under `email` get a band of their own. */
export interface Spot {
  readonly parent: string;
  readonly after: string | null;
}

/** What can be put into the email: a new block, a new band of columns, or a node that is there. */
export type Load =
  | { readonly kind: "new"; readonly type: string }
  | { readonly kind: "newBand"; readonly columns: number }
  | { readonly kind: "node"; readonly id: string; readonly type: string };

export interface Doing {
  readonly edit: Edit;
  /** What is selected afterwards; left out, what was. */
  readonly select?: string | null;
}

const group = (edits: SimpleEdit[]): Edit =>
  edits.length === 1 ? edits[0]! : { type: "group", edits };

/** Puts a load down at a spot. Gives null where nothing would change. */
export function putDown(doc: EmailDocument, load: Load, spot: Spot): Doing | null {
  const ownBand = spot.parent === "email";
  if (load.kind === "newBand") {
    const columns = Array.from({ length: load.columns }, () => createColumn(newNodeId));
    const band = createBand(newNodeId, columns);
    return { edit: { type: "insert", ...spot, node: band }, select: band.id };
  }
  if (load.kind === "new") {
    const block = createBlock(load.type, newNodeId);
    const node = ownBand ? createBand(newNodeId, [createColumn(newNodeId, [block])]) : block;
    return { edit: { type: "insert", ...spot, node }, select: block.id };
  }
  const from = find(doc, load.id);
  if (!from?.parent) return null;
  const before = from.parent.children[from.index - 1]?.id ?? null;
  if (spot.after === load.id || (spot.parent === from.parent.id && spot.after === before))
    return null;
  const edits: SimpleEdit[] = [];
  if (ownBand && load.type !== "band") {
    const column = createColumn(newNodeId);
    edits.push({ type: "insert", ...spot, node: createBand(newNodeId, [column]) });
    edits.push({ type: "move", node: load.id, parent: column.id, after: null });
  } else edits.push({ type: "move", node: load.id, ...spot });
  const emptied = bandLeftEmpty(doc, load.id, spot);
  if (emptied) edits.push({ type: "remove", node: emptied });
  return { edit: group(edits), select: load.id };
}

/** The band a block leaves empty by going elsewhere: a band of one column with nothing else in it. */
function bandLeftEmpty(doc: EmailDocument, block: string, spot: Spot): string | null {
  const [, band, column, outer] = pathTo(doc, block);
  if (!band || !column || outer?.id !== block || spot.parent === column.id) return null;
  return band.children.length === 1 && column.children.length === 1 ? band.id : null;
}

/**
 * The spot for a new block of this type after what is selected: after a block, into a band, a column or a
 * card, else the end before the footer.
 */
export function spotAfter(doc: EmailDocument, selected: string | null, type = ""): Spot {
  const path = selected ? pathTo(doc, selected) : [];
  const [, band, column] = path;
  const block = selected ? blockOf(doc, selected) : null;
  if (block && selected === block.id && mayHold(block.type, type)) {
    return { parent: block.id, after: block.children.at(-1)?.id ?? null };
  }
  const within = path.findLastIndex(
    (node) => isBlock(node.type) && mayHoldBeside(path, node, type),
  );
  if (within > 0) return { parent: path[within - 1]!.id, after: path[within]!.id };
  if (column) return { parent: column.id, after: column.children.at(-1)?.id ?? null };
  if (band) {
    const first = band.children[0]!;
    return { parent: first.id, after: first.children.at(-1)?.id ?? null };
  }
  const bands = doc.root.children;
  const last = bands.at(-1);
  const footer = last?.children.some((c) => c.children.some((b) => b.type === "footer"));
  return { parent: "email", after: (footer ? bands.at(-2) : last)?.id ?? null };
}

/** Whether a block of the type may stand beside this one: a card cannot stand in a card. */
const mayHoldBeside = (path: readonly DocNode[], node: DocNode, type: string): boolean => {
  const parent = path[path.indexOf(node) - 1];
  return parent !== undefined && (type !== CARD || mayHold(parent.type, CARD));
};

/** A copy right after the original. */
export function duplicate(doc: EmailDocument, id: string): Doing | null {
  const at = find(doc, id);
  if (!at?.parent || at.node.type === "column") return null;
  if (isTableColumn(at.node)) return duplicateColumn(at);
  const node = withNewIds(at.node, newNodeId);
  return { edit: { type: "insert", parent: at.parent.id, after: id, node }, select: node.id };
}

/** Takes a node out; what stood next to it is selected. */
export function takeOut(doc: EmailDocument, id: string): Doing | null {
  const at = find(doc, id);
  if (!at?.parent || at.node.type === "column") return null;
  if (isTableColumn(at.node)) return takeOutColumn(at);
  const siblings = at.parent.children;
  const same = (node: DocNode | undefined) =>
    node && isItem(at.node.type) && node.type !== at.node.type ? undefined : node;
  const next = same(siblings[at.index + 1]) ?? same(siblings[at.index - 1]);
  const [, band, column] = pathTo(doc, id);
  const lastOfBand =
    at.parent === column && band?.children.length === 1 && column?.children.length === 1;
  if (lastOfBand) {
    const bands = doc.root.children;
    const index = bands.findIndex((b) => b.id === band.id);
    const beside = bands[index + 1] ?? bands[index - 1];
    return { edit: { type: "remove", node: band.id }, select: beside?.id ?? null };
  }
  return { edit: { type: "remove", node: id }, select: next?.id ?? at.parent.id };
}

/** One place up or down: within the column, then into the band above or below. */
export function shift(doc: EmailDocument, id: string, by: 1 | -1): Doing | null {
  const at = find(doc, id);
  if (!at?.parent || at.node.type === "column") return null;
  const siblings = at.parent.children;
  const target = at.index + by;
  if (isItem(at.node.type)) {
    if (siblings[target]?.type !== at.node.type) return null;
    if (isTableColumn(at.node)) return shiftColumn(at, by);
  }
  if (target >= 0 && target < siblings.length) {
    const after = by > 0 ? siblings[target]!.id : (siblings[target - 1]?.id ?? null);
    return { edit: { type: "move", node: id, parent: at.parent.id, after }, select: id };
  }
  if (at.node.type === "band" || isItem(at.node.type)) return null;
  if (at.parent.type === CARD) {
    // Out of the card, to its other side.
    const card = find(doc, at.parent.id)!;
    const after = by > 0 ? at.parent.id : (card.parent!.children[card.index - 1]?.id ?? null);
    return putDown(
      doc,
      { kind: "node", id, type: at.node.type },
      { parent: card.parent!.id, after },
    );
  }
  const [, band] = pathTo(doc, id);
  const bandAt = find(doc, band!.id)!;
  const column = at.parent;
  const sideways = band!.children[find(doc, column.id)!.index + by];
  const into = sideways ?? firstOrLast(doc.root.children[bandAt.index + by], by);
  if (!into) return null;
  const after = by > 0 ? null : (into.children.at(-1)?.id ?? null);
  return putDown(doc, { kind: "node", id, type: at.node.type }, { parent: into.id, after });
}
const firstOrLast = (band: DocNode | undefined, by: 1 | -1) =>
  band && (by > 0 ? band.children[0] : band.children.at(-1));

/**
 * What the running order shows, top to bottom: bands, blocks, what stands in cards, and the items of what
 * the selection is in.
 */
export function readingOrder(doc: EmailDocument, selected: string | null = null): DocNode[] {
  const open = new Set(selected ? pathTo(doc, selected).slice(0, -1) : []);
  const under = (node: DocNode): DocNode[] =>
    node.children.flatMap((child) => {
      if (child.type === "column") return under(child);
      if (isItem(child.type) && !open.has(node)) return [];
      return [child, ...under(child)];
    });
  return under(doc.root);
}

/** Puts an item where another of its kind stands. */
export function moveItem(doc: EmailDocument, id: string, onto: string): Doing | null {
  const at = find(doc, id);
  const target = find(doc, onto);
  if (!at?.parent || !target || target.parent !== at.parent || id === onto) return null;
  if (isTableColumn(at.node)) {
    const by = target.index > at.index ? 1 : -1;
    return moveColumn(at, target, by);
  }
  const after = target.index > at.index ? onto : (at.parent.children[target.index - 1]?.id ?? null);
  return { edit: { type: "move", node: id, parent: at.parent.id, after } };
}

/** A new item of a block (or of an item in it) after the last of its kind; a table's rows and columns stay whole. */
export function addItem(doc: EmailDocument, parentId: string, type: string): Doing | null {
  const parent = find(doc, parentId)?.node;
  const kind = itemKind(type);
  if (!parent || !kind) return null;
  const after = parent.children.findLast((child) => child.type === type)?.id ?? null;
  if (type === TABLE_KINDS.column.type) return addColumn(parent, after);
  const node =
    type === TABLE_KINDS.row.type
      ? newRow(
          newNodeId,
          columnsOf(parent).map(() => ""),
        )
      : createItem(kind, newNodeId);
  return { edit: { type: "insert", parent: parentId, after, node }, select: node.id };
}

/** Sets how many columns a band has; blocks of columns that go move into the last that stays. */
export function setColumns(doc: EmailDocument, bandId: string, count: number): Edit | null {
  const band = find(doc, bandId)?.node;
  if (!band || band.children.length === count) return null;
  const edits: SimpleEdit[] = [];
  for (let i = band.children.length; i < count; i++) {
    const after = i === band.children.length ? band.children.at(-1)!.id : lastInserted(edits);
    edits.push({ type: "insert", parent: bandId, after, node: createColumn(newNodeId) });
  }
  const stays = band.children[count - 1];
  let after = stays?.children.at(-1)?.id ?? null;
  for (const column of band.children.slice(count)) {
    for (const block of column.children) {
      edits.push({ type: "move", node: block.id, parent: stays!.id, after });
      after = block.id;
    }
    edits.push({ type: "remove", node: column.id });
  }
  return group(edits);
}
const lastInserted = (edits: readonly SimpleEdit[]): string => {
  const last = edits.at(-1);
  return last?.type === "insert" ? last.node.id : "";
};
