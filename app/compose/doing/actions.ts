/** What a person does, as edits. */
import { createColumn, itemKind } from "#core/blocks/index.ts";
import { newRow, TABLE_KINDS } from "#core/blocks/table-items.ts";
import {
  type DocNode,
  type Edit,
  type EmailDocument,
  find,
  holdsBlocks,
  isItem,
  type Place,
  pathTo,
  type SimpleEdit,
  withNewIds,
} from "#core/document/index.ts";
import { createItem } from "#core/kinds/item.ts";
import { withOwnChains } from "../who/actions.ts";
import { type Doing, group, selecting } from "./doing.ts";
import { newNodeId } from "./ids.ts";
import { bandsLeftEmpty, putDown } from "./put-down.ts";
import {
  addColumn,
  columnsOf,
  duplicateColumn,
  isTableColumn,
  moveColumn,
  shiftColumn,
  takeOutColumn,
} from "./table-columns.ts";

/** The places of pieces that can be handled together: all bands, all blocks, or one item. */
function placesOf(doc: EmailDocument, ids: readonly string[]): Standing[] {
  return ids
    .map((id) => find(doc, id))
    .filter((at): at is Standing => at?.parent != null && at.node.type !== "column");
}
type Standing = Place & { readonly parent: DocNode };

const together = (places: readonly Standing[]) =>
  places.every((at) => at.parent === places[0]!.parent);

/** Copies: of neighbours after the last of them, of pieces in several places each after its own. */
export function duplicate(doc: EmailDocument, ids: readonly string[]): Doing | null {
  const places = placesOf(doc, ids);
  const [one] = places;
  if (!one) return null;
  if (isTableColumn(one.node)) return duplicateColumn(one);
  const edits: SimpleEdit[] = [];
  const made: string[] = [];
  let after = places.at(-1)!.node.id;
  for (const { node, parent } of places) {
    const [copy] = withOwnChains([withNewIds(node, newNodeId)]) as [DocNode];
    const at = together(places) ? after : node.id;
    edits.push({ type: "insert", parent: parent.id, after: at, node: copy });
    made.push(copy.id);
    after = copy.id;
  }
  return { edit: group(edits), select: selecting(made) };
}

/** Takes pieces out; what stood next to the last of them is selected. */
export function takeOut(doc: EmailDocument, ids: readonly string[]): Doing | null {
  const places = placesOf(doc, ids);
  const last = places.at(-1);
  if (!last) return null;
  if (isTableColumn(last.node)) return takeOutColumn(last);
  const gone = new Set(places.map(({ node }) => node.id));
  // A band of one column that keeps nothing goes with its blocks.
  const bands = bandsLeftEmpty(doc, [...gone], null);
  const bandOf = (at: Standing) => pathTo(doc, at.node.id)[1]!;
  const edits = [...places.map(({ node }) => node), ...bands]
    .filter((node) => !bands.some((band) => band !== node && band === pathTo(doc, node.id)[1]))
    .map((node): SimpleEdit => ({ type: "remove", node: node.id }));
  for (const band of bands) gone.add(band.id);
  const from = bands.includes(bandOf(last)) ? find(doc, bandOf(last).id)! : last;
  const siblings = from.parent!.children.filter(
    (node) => node === from.node || (!gone.has(node.id) && !otherKind(from.node, node)),
  );
  const at = siblings.indexOf(from.node);
  const next = siblings[at + 1] ?? siblings[at - 1];
  const fallback = from.node.type === "band" ? null : from.parent!.id;
  return { edit: group(edits), select: next?.id ?? fallback };
}
const otherKind = (item: DocNode, node: DocNode) => isItem(item.type) && node.type !== item.type;

/** One place up or down: within the column, then into the band above or below. */
export function shift(doc: EmailDocument, ids: readonly string[], by: 1 | -1): Doing | null {
  const places = placesOf(doc, ids);
  if (places.length === 0 || !together(places)) return null;
  const at = by > 0 ? places.at(-1)! : places[0]!;
  const { node, parent, index } = at;
  const load = { kind: "nodes", ids: places.map((one) => one.node.id) } as const;
  const siblings = parent.children;
  const target = index + by;
  if (isItem(node.type)) {
    if (siblings[target]?.type !== node.type) return null;
    if (isTableColumn(node)) return shiftColumn(at, by);
  }
  if (target >= 0 && target < siblings.length) {
    const after = by > 0 ? siblings[target]!.id : (siblings[target - 1]?.id ?? null);
    return putDown(doc, load, { parent: parent.id, after });
  }
  if (node.type === "band" || isItem(node.type)) return null;
  if (holdsBlocks(parent.type)) {
    // Out of the card, to its other side.
    const card = find(doc, parent.id)!;
    const after = by > 0 ? parent.id : (card.parent!.children[card.index - 1]?.id ?? null);
    return putDown(doc, load, { parent: card.parent!.id, after });
  }
  const [, band] = pathTo(doc, node.id);
  const bandAt = find(doc, band!.id)!;
  const sideways = band!.children[find(doc, parent.id)!.index + by];
  const into = sideways ?? firstOrLast(doc.root.children[bandAt.index + by], by);
  if (!into) return null;
  const after = by > 0 ? null : (into.children.at(-1)?.id ?? null);
  return putDown(doc, load, { parent: into.id, after });
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

/** In which column of its band each block stood before columns were taken away, by band and block. */
export type ColumnMemory = Map<string, Map<string, number>>;

/**
 * Sets how many columns a band has; blocks of columns that go move into the last that stays. Those that `memory`
 * knows go back where they were when their column comes again.
 */
export function setColumns(
  doc: EmailDocument,
  bandId: string,
  count: number,
  memory: ColumnMemory = new Map(),
): Edit | null {
  const band = find(doc, bandId)?.node;
  if (!band || band.children.length === count) return null;
  const edits: SimpleEdit[] = [];
  const before = memory.get(bandId) ?? new Map<string, number>();
  memory.set(bandId, before);
  let comeAfter = band.children.at(-1)!.id;
  for (let i = band.children.length; i < count; i++) {
    const after = comeAfter;
    const column = createColumn(newNodeId);
    edits.push({ type: "insert", parent: bandId, after, node: column });
    comeAfter = column.id;
    let last: string | null = null;
    for (const block of band.children.flatMap(({ children }) => children)) {
      if (before.get(block.id) !== i) continue;
      edits.push({ type: "move", node: block.id, parent: column.id, after: last });
      before.delete(block.id);
      last = block.id;
    }
  }
  const stays = band.children[count - 1];
  let after = stays?.children.at(-1)?.id ?? null;
  for (const [at, column] of band.children.entries()) {
    if (at < count) continue;
    for (const block of column.children) {
      // Who was moved before stays known by the column it came from, until that is there again.
      if ((before.get(block.id) ?? 0) < band.children.length) before.set(block.id, at);
      edits.push({ type: "move", node: block.id, parent: stays!.id, after });
      after = block.id;
    }
    edits.push({ type: "remove", node: column.id });
  }
  return group(edits);
}
