/** What a table holds: columns, rows, and the cells of a row. */
import { z } from "zod";
import { alignSchema } from "../kinds/common.ts";
import { createItem } from "../kinds/item.ts";
import type { ItemKind } from "../kinds/kind.ts";
import { LIMITS } from "../limits.ts";
import { doc, docSchema, line, type TextJson, wordsOf } from "../text/index.ts";
import { newPicture, pictureControls, pictureFindings, pictureShape } from "./picture.ts";

const columnSchema = z.strictObject({
  share: z.number().int().min(1).max(100),
  align: alignSchema,
});
type TableColumn = z.infer<typeof columnSchema>;

const cellSchema = z.strictObject({
  ...pictureShape,
  holds: z.enum(["words", "picture"]),
  words: docSchema,
});
type Cell = z.infer<typeof cellSchema>;

const column: ItemKind<TableColumn> = {
  type: "table.column",
  label: "Table column",
  plural: "Columns",
  least: 1,
  most: LIMITS.tableColumns,
  schema: columnSchema,
  create: () => ({ share: 10, align: "start" }),
  texts: [],
  content: [],
  style: [
    { control: "number", path: ["share"], label: "Share", min: 1, max: 100, unit: "parts" },
    {
      control: "choice",
      path: ["align"],
      label: "Alignment",
      options: [
        { value: "start", label: "Start" },
        { value: "center", label: "Centre" },
        { value: "end", label: "End" },
      ],
    },
  ],
};

const cell: ItemKind<Cell> = {
  type: "table.row.cell",
  label: "Cell",
  plural: "Cells",
  least: 0,
  most: LIMITS.tableColumns,
  schema: cellSchema,
  create: () => ({ ...newPicture(null, line()), holds: "words", words: doc("–") }),
  texts: [
    { path: ["words"], kind: "doc", label: "Text" },
    { path: ["alt"], kind: "line", label: "Alt text" },
  ],
  content: [
    {
      control: "choice",
      path: ["holds"],
      label: "Holds",
      options: [
        { value: "words", label: "Text" },
        { value: "picture", label: "An image" },
      ],
    },
    ...pictureControls,
  ],
  style: [],
  name: (props) => firstWords(props.words),
  checks: (props) => (props.holds === "picture" ? pictureFindings(props) : []),
};

const row: ItemKind<Record<string, never>> = {
  type: "table.row",
  label: "Row",
  plural: "Rows",
  least: 1,
  most: LIMITS.tableRows,
  schema: z.strictObject({}) as z.ZodType<Record<string, never>>,
  create: () => ({}),
  holds: [cell],
  texts: [],
  content: [],
  style: [],
};
export const TABLE_KINDS = { column, row, cell } as const;

/** The words of a cell where there is no reader, in one line. */
export const firstWords = (text: TextJson): string =>
  (text.content ?? [])
    .map((block) => (block.type === "paragraph" ? wordsOf(block) : firstWords(block)))
    .join(" ");

/** A new row with a cell for each of the texts. */
export const newRow = (newId: () => string, texts: readonly (string | TextJson)[]) => ({
  ...createItem(row, newId),
  children: texts.map((text) =>
    createItem(cell, newId, { words: typeof text === "string" ? doc(text) : text }),
  ),
});
