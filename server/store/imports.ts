/** Imports of people and records: what is known of each. The work itself is in server/import. */
import { z } from "zod";
import { type Field, fold } from "#core/fields/index.ts";
import { type ImportOptions, importOptionsSchema } from "#core/import/index.ts";
import { LIMITS } from "#core/limits.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import { newId } from "../ids.ts";

export type ImportState =
  | "uploaded"
  | "checking"
  | "checked"
  | "applying"
  | "done"
  | "undoing"
  | "undone"
  | "failed";

export interface Import {
  readonly id: string;
  /** Where the rows go: contacts, or a table of records. */
  readonly table: string;
  readonly name: string;
  readonly bytes: number;
  readonly state: ImportState;
  readonly options: ImportOptions | null;
  readonly newFields: readonly Field[];
  readonly read: number;
  /** Up to which row it is taken in; -1 where nothing is. */
  readonly applied: number;
  readonly added: number;
  readonly changed: number;
  readonly same: number;
  readonly refused: number;
  /** Rows that were imported without a cell that could not be read. */
  readonly leftOut: number;
  /** The fields it made. */
  readonly madeFields: readonly string[];
  readonly problem: string | null;
  readonly createdAt: Date;
  readonly doneAt: Date | null;
}

const newFieldsSchema = z.array(z.custom<Field>());

type Row = Omit<Import, "options" | "newFields"> & { options: unknown; newFields: unknown };
const readRow = (row: Row): Import => ({
  ...row,
  options: row.options === null ? null : importOptionsSchema.parse(row.options),
  newFields: newFieldsSchema.parse(row.newFields),
});

export async function createImport(
  sql: Sql,
  file: { id: string; table: string; name: string; bytes: number },
  member: string,
  now: Date,
): Promise<void> {
  await sql`insert into imports (id, table_id, name, bytes, state, member_id, created_at)
    values (${file.id}, ${file.table}, ${file.name}, ${file.bytes}, 'uploaded', ${member}, ${now})`;
}
export const newImportId = newId;

export async function getImport(sql: Sql, id: string): Promise<Import | null> {
  const row = first(
    await sql<Row>`select id, table_id as "table", name, bytes, state, options, new_fields as "newFields",
        rows_read as read, applied_to as applied, added, changed, same, refused, left_out as "leftOut", made_fields as "madeFields", problem, created_at as "createdAt",
        done_at as "doneAt" from imports where id = ${id}`,
  );
  return row && readRow(row);
}

export async function listImports(sql: Sql): Promise<Import[]> {
  const rows =
    await sql<Row>`select id, table_id as "table", name, bytes, state, options, new_fields as "newFields",
      rows_read as read, applied_to as applied, added, changed, same, refused, left_out as "leftOut", made_fields as "madeFields", problem, created_at as "createdAt",
      done_at as "doneAt" from imports order by created_at desc limit ${LIMITS.contactsPerPage}`;
  return rows.map(readRow);
}

/** Sets how a file is read; `columns` are its header, to know the next file like it. */
export async function setOptions(
  sql: Sql,
  id: string,
  options: ImportOptions,
  columns: readonly string[],
): Promise<void> {
  await sql`update imports set options = ${jsonb(options)},
    columns = ${jsonb(columns.map(fold))} where id = ${id}`;
}

/** How the latest file for this table with the same columns was read that went through. */
export async function optionsLike(
  sql: Sql,
  table: string,
  columns: readonly string[],
): Promise<ImportOptions | null> {
  const row = first(
    await sql<{ options: unknown }>`select options from imports
      where columns = ${jsonb(columns.map(fold))} and options is not null and table_id = ${table}
        and state in ('done', 'undone')
      order by created_at desc limit 1`,
  );
  const options = importOptionsSchema.safeParse(row?.options);
  return options.success ? options.data : null;
}

export async function setState(
  sql: Sql,
  id: string,
  state: ImportState,
  problem: string | null = null,
): Promise<void> {
  await sql`update imports set state = ${state}, problem = ${problem} where id = ${id}`;
}

/** Says what went wrong with an import that goes on. */
export async function setProblem(sql: Sql, id: string, problem: string): Promise<void> {
  await sql`update imports set problem = ${problem} where id = ${id}`;
}

/** Moves an import on, once: false where it is not in the state it has to be in. */
export async function moveOn(
  sql: Sql,
  id: string,
  from: readonly ImportState[],
  to: ImportState,
): Promise<boolean> {
  const rows = await sql`update imports set state = ${to}, problem = null
    where id = ${id} and state = any (${[...from]}::text[]) returning id`;
  return rows.length > 0;
}

export async function setRead(sql: Sql, id: string, read: number): Promise<void> {
  await sql`update imports set rows_read = ${read} where id = ${id}`;
}

/** What would happen is known, with the fields that are made then. */
export async function setChecked(sql: Sql, id: string, newFields: readonly Field[]): Promise<void> {
  await sql`update imports set state = 'checked', new_fields = ${jsonb(newFields)}
    where id = ${id} and state = 'checking'`;
}

/** Which fields it made. */
export async function setMadeFields(
  sql: Sql,
  id: string,
  fields: readonly string[],
): Promise<void> {
  await sql`update imports set made_fields = made_fields || ${[...fields]}::text[] where id = ${id}`;
}

/** Up to which row it is taken in. */
export async function setApplied(sql: Sql, id: string, to: number): Promise<void> {
  await sql`update imports set applied_to = ${to} where id = ${id}`;
}

export async function setDone(sql: Sql, id: string, now: Date): Promise<void> {
  await sql`update imports set state = 'done', done_at = ${now}, problem = null
    where id = ${id} and state = 'applying'`;
}

/** Removes what is known of an import of which nothing was taken in. */
export async function removeImport(sql: Sql, id: string): Promise<void> {
  await sql`delete from imports where id = ${id} and applied_to < 0
    and state in ('uploaded', 'checked', 'failed')`;
}

export async function clearRefused(sql: Sql, id: string): Promise<void> {
  await sql`delete from import_refused where import_id = ${id}`;
}

export interface RefusedRow {
  readonly line: number;
  readonly reason: string;
  readonly cells: readonly string[];
  /** It was imported, but for what could not be read. */
  readonly taken?: boolean;
}

export async function addRefused(sql: Sql, id: string, rows: readonly RefusedRow[]): Promise<void> {
  if (rows.length === 0) return;
  await sql`insert into import_refused (import_id, line, reason, cells, taken)
    select ${id}, r.line, r.reason, r.cells, coalesce(r.taken, false)
    from jsonb_to_recordset(${jsonb(rows)})
      as r(line int, reason text, cells jsonb, taken boolean) on conflict do nothing`;
}

export const getRefused = (
  sql: Sql,
  id: string,
  after = -1,
  limit = 5_000,
): Promise<RefusedRow[]> =>
  sql<RefusedRow>`select line, reason, cells, taken from import_refused
    where import_id = ${id} and line > ${after} order by line limit ${limit}`;

/** Reasons, without what was written, by how often. */
export const refusedReasons = (
  sql: Sql,
  id: string,
): Promise<{ reason: string; n: number }[]> => sql`
  select regexp_replace(reason, '“[^”]*”', '“…”') as reason, count(*)::int as n
  from import_refused where import_id = ${id} group by 1 order by n desc, 1 limit 12`;
