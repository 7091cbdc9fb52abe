/** Records beside contacts: rows of small tables of one's own. */
import { type Fields, fold, type Values } from "#core/fields/index.ts";
import type { Json } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { identifier, type Sql as SqlPiece } from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import type { PageOf } from "./audience.ts";
import {
  assignmentsOf,
  columnNames,
  columnsFrom,
  columnTypes,
  rowOf,
  valuesSql,
} from "./columns.ts";
import { tableName, tableSql } from "./fields.ts";
import { wordsFit } from "./search.ts";

export interface OwnRecord {
  readonly id: number;
  readonly name: string;
  readonly values: Record<string, Json>;
}
export interface NewRecord {
  readonly name: string;
  readonly values: Values;
}

const at = tableSql;

/** Adds records in one statement and gives their ids in the same order. A name that is taken is refused (23505). */
export async function addRecords(
  sql: Sql,
  table: string,
  fields: Fields,
  records: readonly NewRecord[],
  now: Date,
): Promise<number[]> {
  const rows = records.map(({ name, values }, i) => ({
    i,
    name,
    name_folded: fold(name),
    ...rowOf(values, fields),
  }));
  const ids = await sql<{ id: number }>`
    insert into ${at(table)} (name, name_folded, created_at${columnNames(fields)})
    select r.name, r.name_folded, ${now}::timestamptz${columnsFrom(fields, "r")}
    from jsonb_to_recordset(${jsonb(rows)})
      as r(i int, name text, name_folded text${columnTypes(fields)})
    order by r.i returning id`;
  return ids.map((row) => row.id);
}

/** Records of a table by name, those whose names fit what is searched. */
export const searchRecords = (
  sql: Sql,
  table: string,
  fields: Fields,
  { search, from, limit }: PageOf,
): Promise<OwnRecord[]> =>
  sql<OwnRecord>`select r.id, r.name, ${valuesSql(fields, "r")} as values
    from ${at(table)} r where ${wordsFit(identifier("r", "name"), search)}
    order by r.name_folded offset ${from} limit ${limit}`;
export const countFound = async (sql: Sql, table: string, search = ""): Promise<number> =>
  first(
    await sql<{ n: number }>`select count(*)::int as n from ${at(table)} r
      where ${wordsFit(identifier("r", "name"), search)}`,
  )!.n;

export const getRecord = async (
  sql: Sql,
  table: string,
  fields: Fields,
  id: number,
): Promise<OwnRecord | null> =>
  first(
    await sql<OwnRecord>`select r.id, r.name, ${valuesSql(fields, "r")} as values
      from ${at(table)} r where r.id = ${id}`,
  );

/** What the records of a table are called, for choosing one. */
export const recordNames = (sql: Sql, table: string): Promise<{ id: number; name: string }[]> =>
  sql`select id, name from ${at(table)} order by name_folded limit ${LIMITS.recordsPerTable}`;

/** Changes a record's name or values; null takes a value away. */
export async function changeRecord(
  sql: Sql,
  table: string,
  fields: Fields,
  id: number,
  change: { name?: string; values?: Values },
): Promise<void> {
  if (change.name !== undefined) {
    await sql`update ${at(table)} set name = ${change.name}, name_folded = ${fold(change.name)}
      where id = ${id}`;
  }
  const sets = assignmentsOf(change.values ?? {}, fields);
  if (sets) await sql`update ${at(table)} set ${sets} where id = ${id}`;
}

/** The tables and columns that point to records of a table. */
export async function pointersTo(
  sql: Sql,
  table: string,
): Promise<{ readonly table: string; readonly column: string }[]> {
  const fields = await sql<{ tableId: string; id: string }>`
    select table_id as "tableId", id from fields where target = ${table} order by 1, 2`;
  return fields.map(({ tableId, id }) => ({ table: tableName(tableId), column: `f_${id}` }));
}

/** What points to these records of a table points nowhere from then on. `ids` selects them. */
export async function pointNowhere(sql: Sql, table: string, ids: SqlPiece): Promise<void> {
  for (const pointer of await pointersTo(sql, table)) {
    const column = identifier(pointer.column);
    await sql`update ${identifier(pointer.table)} set ${column} = null where ${column} in (${ids})`;
  }
}

/** How many records each table holds. */
export async function countRecords(
  sql: Sql,
  tables: readonly string[],
): Promise<Map<string, number>> {
  const counts = new Map<string, number>();
  for (const table of tables) {
    const row = first(await sql<{ n: number }>`select count(*)::int as n from ${at(table)}`);
    counts.set(table, row!.n);
  }
  return counts;
}
