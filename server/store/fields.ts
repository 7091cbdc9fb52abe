/** Fields of contacts and of records, and the tables of records. */
import { FIELD_ID, type Field, type Fields, fold, type RecordTables } from "#core/fields/index.ts";
import {
  constantSql,
  fragment,
  identifier,
  joinSql,
  type Sql as SqlPiece,
} from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import { columnsOf, definition } from "./columns.ts";

/** The table whose fields those of contacts are. */
export const CONTACTS = "contacts";

/** The name of the database table behind a table of fields. Throws where its id is none. */
export function tableName(table: string): string {
  if (!FIELD_ID.test(table)) throw new Error(`Not a table id: ${table}`);
  return table === CONTACTS ? "contacts" : `records_${table}`;
}
export const tableSql = (table: string): SqlPiece => identifier(tableName(table));

interface Row extends Field {
  readonly tableId: string;
}

const allFields = (sql: Sql): Promise<Row[]> => sql<Row>`
  select table_id as "tableId", id, label, type, options, target as "table", standard, format
  from fields order by table_id, position, id`;

const asMap = (rows: readonly Row[], table: string): Fields =>
  new Map(
    rows
      .filter((row) => row.tableId === table)
      .map(({ tableId, ...field }) => [field.id, field as Field]),
  );

/** The fields of a table, in their order. */
export const getFields = async (sql: Sql, table = CONTACTS): Promise<Fields> =>
  asMap(await allFields(sql), table);

/** The fields of contacts (or of another table), and the tables of records with theirs; not those of sources. */
export async function getSchema(
  sql: Sql,
  table = CONTACTS,
): Promise<{ fields: Fields; tables: RecordTables }> {
  const rows = await allFields(sql);
  const tables = await sql<{ id: string; name: string }>`
    select id, name from record_tables t
    where not exists (select 1 from sources s where s.id = t.id) order by name`;
  return {
    fields: asMap(rows, table),
    tables: new Map(tables.map((one) => [one.id, { ...one, fields: asMap(rows, one.id) }])),
  };
}

/** Adds fields behind those there are, with their columns. */
export async function addFields(
  sql: Sql,
  fields: readonly Field[],
  table = CONTACTS,
): Promise<void> {
  for (const field of fields) {
    const columns = columnsOf(field).map((column) => fragment`add column ${definition(column)}`);
    await sql`alter table ${tableSql(table)} ${joinSql(columns, ", ")}`;
    await sql`insert into fields (table_id, id, label, type, options, target, standard, format, position)
      select ${table}, ${field.id}, ${field.label}, ${field.type},
        ${jsonb(field.options ?? [])}, ${field.table ?? null},
        ${jsonb(field.standard)},
        ${jsonb(field.format ?? {})}, coalesce(max(position) + 1, 0)
      from fields where table_id = ${table}`;
  }
}

/** What can be changed of a field later: its type and id stay, so that rules and tags stay true. */
export type FieldChange = Pick<Field, "label" | "options" | "standard" | "format">;

export async function changeField(
  sql: Sql,
  table: string,
  id: string,
  change: FieldChange,
): Promise<void> {
  await sql`update fields set label = ${change.label},
      options = ${jsonb(change.options ?? [])},
      standard = ${jsonb(change.standard)},
      format = ${jsonb(change.format ?? {})}
    where table_id = ${table} and id = ${id}`;
  if (change.options) await dropLostOptions(sql, table, id);
}

/** Values that are no longer among the choices are no values. */
async function dropLostOptions(sql: Sql, table: string, id: string): Promise<void> {
  const field = (await getFields(sql, table)).get(id);
  if (!field) return;
  const folded = (field.options ?? []).map(fold);
  const at = tableSql(table);
  const [kept, key] = columnsOf(field).map(({ name }) => identifier(name));
  if (field.type === "choice") {
    await sql`update ${at} set ${kept} = null, ${key} = null
      where ${key} is not null and ${key} <> all (${folded}::text[])`;
  } else if (field.type === "choices") {
    await sql`update ${at} set
        ${kept} = nullif(array(select v from unnest(${kept}) v where v = any (${field.options ?? []}::text[])), '{}'),
        ${key} = nullif(array(select v from unnest(${key}) v where v = any (${folded}::text[])), '{}')
      where not ${key} <@ ${folded}::text[]`;
  }
}

export async function removeField(sql: Sql, table: string, id: string): Promise<void> {
  const field = (await getFields(sql, table)).get(id);
  if (!field) return;
  const drops = columnsOf(field).map(({ name }) => fragment`drop column ${identifier(name)}`);
  await sql`alter table ${tableSql(table)} ${joinSql(drops, ", ")}`;
  await sql`delete from fields where table_id = ${table} and id = ${id}`;
}

/** How many have a value of each field of a table, by the field's id. */
export async function countValues(
  sql: Sql,
  table: string,
  fields: Fields,
): Promise<Record<string, number>> {
  const list = [...fields.values()];
  if (list.length === 0) return {};
  const counts = list.map(
    (field) => fragment`count(${identifier(columnsOf(field)[0]!.name)})::int`,
  );
  const row = first(
    await sql<{ counts: number[] }>`select array[${joinSql(counts, ", ")}] as counts
      from ${tableSql(table)}`,
  )!;
  return Object.fromEntries(list.map(({ id }, i) => [id, row.counts[i]!]));
}

/** A new table of records; their names are unique, or (`sameNames`) need not be. */
export async function addTable(
  sql: Sql,
  id: string,
  name: string,
  now: Date,
  { sameNames = false }: { sameNames?: boolean } = {},
): Promise<void> {
  await sql`insert into record_tables (id, name, created_at) values (${id}, ${name}, ${now})`;
  await sql`create table ${tableSql(id)} (
    id bigint generated always as identity primary key,
    name text not null, name_folded text collate "C" not null${constantSql(sameNames ? "" : " unique")},
    created_at timestamptz not null)`;
}

export async function renameTable(sql: Sql, id: string, name: string): Promise<void> {
  await sql`update record_tables set name = ${name} where id = ${id}`;
}

/** Removes a table with its records and every field that points to it. */
export async function removeTable(sql: Sql, id: string): Promise<void> {
  const pointers = await sql<{ table: string; id: string }>`
    select table_id as "table", id from fields where target = ${id} and table_id <> ${id}`;
  for (const pointer of pointers) await removeField(sql, pointer.table, pointer.id);
  await sql`drop table ${tableSql(id)}`;
  await sql`delete from fields where table_id = ${id}`;
  await sql`delete from record_tables where id = ${id}`;
  await sql`update imports set state = 'failed', problem = 'The table it went to is gone.'
    where table_id = ${id}`;
}
