/** Values of fields as a person writes and reads them: in forms, cells and files. */
import {
  type Fields,
  fold,
  kindOf,
  OWN_READING,
  type Reading,
  type RecordTables,
  type Values,
} from "#core/fields/index.ts";
import type { Json } from "#core/json.ts";
import type { Sql } from "../db/database.ts";
import { recordNames } from "../store/records.ts";

/** What a record is looked up by: its table and its name. */
export const recordKey = (table: string, name: string): string => `${table}:${fold(name.trim())}`;

/** What records are called and which one a name means, for the tables that fields point to. */
export interface RecordBook {
  nameOf(table: string, id: number): string;
  idOf(table: string, name: string): number | null;
  /** All of them by `recordKey`. */
  readonly ids: ReadonlyMap<string, number>;
}

export async function recordBook(
  sql: Sql,
  fields: Fields,
  tables: RecordTables,
): Promise<RecordBook> {
  const names = new Map<string, string>();
  const ids = new Map<string, number>();
  const wanted = new Set([...fields.values()].map(({ table }) => table ?? ""));
  for (const table of wanted) {
    if (!tables.has(table)) continue;
    for (const { id, name } of await recordNames(sql, table)) {
      names.set(`${table}:${id}`, name);
      ids.set(recordKey(table, name), id);
    }
  }
  return {
    ids,
    nameOf: (table, id) => names.get(`${table}:${id}`) ?? "",
    idOf: (table, name) => ids.get(recordKey(table, name)) ?? null,
  };
}

/** Values in words, by field; a record by its name. What is missing is left out. */
export function writeValues(
  values: Values,
  fields: Fields,
  book: RecordBook,
): Record<string, string> {
  const written: Record<string, string> = {};
  for (const field of fields.values()) {
    const value = values[field.id];
    if (value === null || value === undefined) continue;
    written[field.id] =
      field.type === "record"
        ? book.nameOf(field.table ?? "", value as number)
        : kindOf(field).write(value, field);
  }
  return written;
}

/** Reads what is written for some fields: values (null for none), or what is wrong by field. */
export function readValues(
  written: Readonly<Record<string, string>>,
  fields: Fields,
  book: RecordBook,
  reading: Pick<Reading, "dates" | "decimal"> = OWN_READING,
): { values: Record<string, Json>; problems: Record<string, string> } {
  const values: Record<string, Json> = {};
  const problems: Record<string, string> = {};
  const own: Reading = { ...OWN_READING, ...reading, record: book.idOf };
  for (const [id, text] of Object.entries(written)) {
    const field = fields.get(id);
    if (!field) continue;
    const parsed = kindOf(field).parse(text, field, own);
    if ("problem" in parsed) problems[id] = parsed.problem;
    else values[id] = parsed.value;
  }
  return { values, problems };
}
