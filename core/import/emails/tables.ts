/** Tables: those that arrange, and those that say something. */
import { LIMITS } from "../../limits.ts";
import { FOREIGN, isButton } from "./leaves.ts";
import { pxIn } from "./look.ts";
import { type El, isEl, letters, some, visibleText } from "./tree.ts";

/** The rows of a table itself, not of those within it. */
export function rowsOf(table: El): El[] {
  return table.children.filter(isEl).flatMap((one) => {
    if (one.tag === "tr") return [one];
    return /^t(head|body|foot)$/.test(one.tag)
      ? one.children.filter(isEl).filter(({ tag }) => tag === "tr")
      : [];
  });
}
export const cellsOf = (row: El): El[] =>
  row.children.filter(isEl).filter(({ tag }) => tag === "td" || tag === "th");

/** Words in a cell of data, on the whole. */
const FEW_WORDS = 8;

/** Whether a table holds data: rows of several short cells each, under one another. */
export function isData(table: El): boolean {
  const rows = rowsOf(table)
    .map(cellsOf)
    .filter((cells) => cells.length > 0);
  const width = Math.max(0, ...rows.map((cells) => cells.length));
  if (rows.length < 2 || width < 2 || width > LIMITS.tableColumns) return false;
  const cells = rows.flat();
  if (
    cells.some((cell) =>
      some(
        cell,
        (one) => /^(table|img|h[1-6])$/.test(one.tag) || FOREIGN.has(one.tag) || isButton(one),
      ),
    )
  ) {
    return false;
  }
  if (rows.filter((row) => row.filter((cell) => letters(cell) > 0).length > 1).length < 2)
    return false;
  if (cells.some(({ tag }) => tag === "th")) return true;
  const border = pxIn(table.attrs.border) ?? 0;
  const even = rows.every((row) => row.length === rows[0]!.length);
  const words =
    cells.reduce((sum, cell) => sum + visibleText(cell).split(" ").length, 0) / cells.length;
  return even && (border > 0 || words <= FEW_WORDS);
}
