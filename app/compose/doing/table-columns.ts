/** A table's columns: a column and its cells come, go and move together, as one edit. */
import { TABLE_KINDS } from "#core/blocks/table-items.ts";
import {
  type DocNode,
  type EmailDocument,
  type Place,
  pathTo,
  type SimpleEdit,
} from "#core/document/index.ts";
import { createItem } from "#core/kinds/item.ts";
import { doc as words } from "#core/text/index.ts";
import { type Doing, group } from "./doing.ts";
import { newNodeId } from "./ids.ts";

const { column, row, cell } = TABLE_KINDS;
export const isTableColumn = (node: DocNode): boolean => node.type === column.type;
export const columnsOf = (table: DocNode): readonly DocNode[] =>
  table.children.filter(isTableColumn);
const rowsOf = (table: DocNode) => table.children.filter((child) => child.type === row.type);

const doing = (edits: SimpleEdit[], select: string | null): Doing => ({
  edit: group(edits),
  select,
});

/** The column of a place among its table's columns. */
const indexOf = (at: Place) => columnsOf(at.parent!).indexOf(at.node);

/** A new column after another, with a cell for every row. */
export function addColumn(table: DocNode, after: string | null, props: object = {}): Doing {
  const index = columnsOf(table).findIndex((one) => one.id === after) + 1;
  const node = createItem(column, newNodeId, props);
  const edits: SimpleEdit[] = [{ type: "insert", parent: table.id, after, node }];
  for (const one of rowsOf(table)) {
    edits.push({
      type: "insert",
      parent: one.id,
      after: one.children[Math.min(index, one.children.length) - 1]?.id ?? null,
      node: createItem(cell, newNodeId, { words: words() }),
    });
  }
  return doing(edits, node.id);
}

export const duplicateColumn = (at: Place): Doing =>
  addColumn(at.parent!, at.node.id, at.node.props);

/** Takes a column out with its cells. */
export function takeOutColumn(at: Place): Doing {
  const table = at.parent!;
  const index = indexOf(at);
  const columns = columnsOf(table);
  const edits: SimpleEdit[] = [{ type: "remove", node: at.node.id }];
  for (const one of rowsOf(table)) {
    const gone = one.children[index];
    if (gone) edits.push({ type: "remove", node: gone.id });
  }
  return doing(edits, (columns[index + 1] ?? columns[index - 1])?.id ?? table.id);
}

/** Moves a column with its cells to where another stands. */
export function moveColumn(at: Place, target: Place, by: 1 | -1): Doing {
  const table = at.parent!;
  const from = indexOf(at);
  const to = indexOf(target);
  const move = (parent: string, nodes: readonly DocNode[]): SimpleEdit[] => {
    const node = nodes[from];
    const other = nodes[to];
    if (!node || !other) return [];
    const after = by > 0 ? other.id : (nodes[to - 1]?.id ?? null);
    return [{ type: "move", node: node.id, parent, after }];
  };
  const edits = move(table.id, columnsOf(table));
  for (const one of rowsOf(table)) edits.push(...move(one.id, one.children));
  return doing(edits, at.node.id);
}

/** Moves a column one place. */
export function shiftColumn(at: Place, by: 1 | -1): Doing {
  const other = columnsOf(at.parent!)[indexOf(at) + by]!;
  return moveColumn(at, { node: other, parent: at.parent, index: 0 }, by);
}

/** A new row after the one of a cell, with the first of its cells; null where the cell is in no table. */
export function addRow(doc: EmailDocument, id: string): { doing: Doing; first: string } | null {
  const path = pathTo(doc, id);
  const table = path.find((node) => node.type === "table");
  const last = path.find((node) => node.type === row.type);
  if (!table || !last) return null;
  const cells = columnsOf(table).map(() => createItem(cell, newNodeId, { words: words() }));
  const node = { ...createItem(row, newNodeId), children: cells };
  const edits: SimpleEdit[] = [{ type: "insert", parent: table.id, after: last.id, node }];
  return { doing: doing(edits, cells[0]!.id), first: cells[0]!.id };
}

/** The cell after (or before) another in reading order, or null at the end. */
export function nextCell(doc: EmailDocument, id: string, back: boolean): string | null {
  const table = pathTo(doc, id).find((node) => node.type === "table");
  if (!table) return null;
  const cells = rowsOf(table).flatMap((one) => one.children);
  return cells[cells.findIndex((one) => one.id === id) + (back ? -1 : 1)]?.id ?? null;
}
