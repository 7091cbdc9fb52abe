/** What an import would do, for looking at before it is done. */
import type { Fields } from "#core/fields/index.ts";
import { LIMITS } from "#core/limits.ts";
import { type RecordBook, writeValues } from "../../audience/field-values.ts";
import type { Sql } from "../../db/database.ts";
import { columnsOf, valuesSql } from "../columns.ts";
import type { Import } from "../imports.ts";
import { destinationOf } from "./destination.ts";
import { stagingOf } from "./staging.ts";

export interface PreviewRow {
  readonly line: number;
  /** The mail address, or the name of a record. */
  readonly key: string;
  readonly cells: Readonly<Record<string, string>>;
}
export interface ChangedRow extends PreviewRow {
  /** What is known now. */
  readonly before: Readonly<Record<string, string>>;
}

export async function previewOf(
  sql: Sql,
  found: Import,
  fields: Fields,
  book: RecordBook,
): Promise<{ added: PreviewRow[]; changed: ChangedRow[] }> {
  const { rows, kept } = stagingOf(found.id);
  const into = destinationOf(found.table);
  const { shown } = into.sql;
  const read = new Map(fields);
  for (const field of found.newFields) read.set(field.id, field);
  const brought = new Map(
    (found.options?.columns ?? []).flatMap((column) => {
      const field =
        column.to === "field" || column.to === "new" ? read.get(column.field) : undefined;
      return field ? [[field.id, field] as const] : [];
    }),
  );
  const known = new Map([...brought].filter(([id]) => fields.has(id)));
  for (const field of brought.values()) columnsOf(field);
  type Row = { line: number; key: string; values: Record<string, never> };
  const added =
    await sql<Row>`select s.line, s.${shown} as key, ${valuesSql(brought, "s")} as values
    from ${kept} k join ${rows} s on s.line = k.line where k.what = 'added'
    order by k.line limit ${LIMITS.importShown}`;
  const changed = await sql<Row & { before: Record<string, never> }>`
    select s.line, c.${shown} as key, ${valuesSql(brought, "s")} as values, ${valuesSql(known, "c")} as before
    from ${kept} k join ${rows} s on s.line = k.line join ${into.at} c on c.id = k.row_id
    where k.what = 'changed' order by k.line limit ${LIMITS.importShown}`;
  const words = (values: Record<string, never>) => writeValues(values, brought, book);
  return {
    added: added.map(({ line, key, values }) => ({ line, key, cells: words(values) })),
    changed: changed.map(({ line, key, values, before }) => ({
      line,
      key,
      cells: words(values),
      before: words(before),
    })),
  };
}
