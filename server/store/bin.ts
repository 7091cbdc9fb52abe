/**
 * What is removed can be put back for a while. The rows go, with all that hang on them, as the foreign keys say; a
 * copy of each stays here.
 */

import { LIMITS } from "#core/limits.ts";
import {
  constantSql,
  fragment,
  identifier,
  joinSql,
  type Sql as SqlPiece,
} from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { newId } from "../ids.ts";
import { tableName, tableSql } from "./fields.ts";
import { pointersTo, pointNowhere } from "./records.ts";
import { ON_ITS_WAY } from "./unsent.ts";

/** Tables whose rows can be taken out by their id. */
export type Removable =
  | "lists"
  | "segments"
  | "topics"
  | "signup_forms"
  | "derived_tags"
  | "code_rolls"
  | "pictures"
  | "picture_folders"
  | "templates"
  | "themes"
  | "saved_blocks";

interface Reference {
  readonly table: string;
  readonly column: string;
  /** What becomes of the row that points: it goes too (c), or points nowhere (n). */
  readonly action: string;
}

const referencesTo = (sql: Sql, table: string): Promise<Reference[]> => sql<Reference>`
  select c.conrelid::regclass::text as table, a.attname as column, c.confdeltype as action
  from pg_constraint c join pg_attribute a on a.attrelid = c.conrelid and a.attnum = c.conkey[1]
  where c.contype = 'f' and c.confrelid = ${table}::regclass and c.confdeltype in ('c', 'n')
  order by 1, 2`;

/** Begins to keep what is removed; gives what it can be put back by. */
async function begin(sql: Sql, label: string, now: Date): Promise<string> {
  const removed = newId();
  await sql`insert into removed (id, label, removed_at) values (${removed}, ${label}, ${now})`;
  return removed;
}

/** Keeps where rows `t` of a table point, which will point nowhere. */
const keepPointers = (
  sql: Sql,
  removed: string,
  n: number,
  { table, column }: Pick<Reference, "table" | "column">,
  pointing: SqlPiece,
) => sql`insert into removed_rows (removed_id, n, table_name, loosened, rows)
  select ${removed}, ${n}::int, ${table}, ${column},
    coalesce(jsonb_agg(jsonb_build_object('id', t.id::text, 'value', to_jsonb(t.${identifier(column)}))), '[]'::jsonb)
  from ${identifier(table)} t where ${pointing}`;

/**
 * Takes a row out, in a transaction; `label` names it to people. Gives what it can be put back by, or null where
 * there was no such row.
 */
export async function takeOut(
  sql: Sql,
  table: Removable,
  id: string,
  label: string,
  now: Date,
): Promise<string | null> {
  const removed = await begin(sql, label, now);
  let n = 0;
  async function keep(name: string, which: SqlPiece): Promise<void> {
    const kept = await sql`insert into removed_rows (removed_id, n, table_name, rows)
      select ${removed}, (${n}::int + part)::int, ${name}, jsonb_agg(k.row)
      from (select to_jsonb(t) as row, (row_number() over () - 1) / ${LIMITS.removedRows}::int as part
        from ${identifier(name)} t where ${which}) k
      group by part returning 1`;
    n += kept.length;
    for (const { table: child, column, action } of await referencesTo(sql, name)) {
      const pointing = fragment`t.${identifier(column)} in (select t.id from ${identifier(name)} t where ${which})`;
      if (action === "c") await keep(child, pointing);
      else await keepPointers(sql, removed, n++, { table: child, column }, pointing);
    }
  }
  await keep(table, fragment`t.id = ${id}`);
  const gone = await sql`delete from ${identifier(table)} where id = ${id} returning 1`;
  if (gone.length > 0) return removed;
  await sql`delete from removed where id = ${removed}`;
  return null;
}

/** Takes a record of a table of one's own out, in a transaction; what points to it points nowhere from then on. */
export async function takeOutRecord(
  sql: Sql,
  table: string,
  id: number,
  label: string,
  now: Date,
): Promise<string | null> {
  const own = tableSql(table);
  const removed = await begin(sql, label, now);
  await sql`insert into removed_rows (removed_id, n, table_name, rows)
    select ${removed}, 0, ${tableName(table)}, jsonb_agg(to_jsonb(t)) from ${own} t where t.id = ${id} having count(*) > 0`;
  for (const [i, pointer] of (await pointersTo(sql, table)).entries()) {
    const pointing = fragment`t.${identifier(pointer.column)} = ${id}`;
    await keepPointers(sql, removed, i + 1, pointer, pointing);
  }
  await pointNowhere(sql, table, fragment`select ${id}::bigint`);
  const gone = await sql`delete from ${own} where id = ${id} returning 1`;
  if (gone.length > 0) return removed;
  await sql`delete from removed where id = ${removed}`;
  return null;
}

/**
 * Hides a campaign as if it were gone: what was sent goes on leading somewhere. In a transaction; gives what it can
 * be put back by, or null where it is not there, or on its way.
 */
export const hideCampaign = (sql: Sql, id: string, label: string, now: Date) =>
  hide(sql, "campaigns", fragment`k.id = ${id} and not ${ON_ITS_WAY}`, label, now);

/** The same for a file, which emails that were sent go on leading to. */
export const hideFile = (sql: Sql, id: string, label: string, now: Date) =>
  hide(sql, "files", fragment`k.id = ${id}`, label, now);

/** Hides a row `k` of a table; gives what it can be put back by, or null where there is none to hide. */
async function hide(
  sql: Sql,
  table: "campaigns" | "files",
  which: SqlPiece,
  label: string,
  now: Date,
): Promise<string | null> {
  const hidden = first(
    await sql<{ id: string }>`update ${identifier(table)} k set deleted_at = ${now}
      where k.deleted_at is null and ${which} returning k.id`,
  );
  if (!hidden) return null;
  const removed = await begin(sql, label, now);
  await sql`insert into removed_rows (removed_id, n, table_name, loosened, rows)
    values (${removed}, 0, ${table}, 'deleted_at',
      jsonb_build_array(jsonb_build_object('id', ${hidden.id}::text, 'value', null)))`;
  return removed;
}

/** What something that was removed is called; null where it cannot be put back. */
export const labelOfRemoved = async (sql: Sql, id: string): Promise<string | null> =>
  first(await sql<{ label: string }>`select label from removed where id = ${id}`)?.label ?? null;

/** The columns of a table that can be written, in the order they stand. */
async function columnsOf(sql: Sql, table: string): Promise<SqlPiece> {
  const rows = await sql<{ name: string }>`
    select column_name as name from information_schema.columns
    where table_schema = 'public' and table_name = ${table} and is_generated = 'NEVER'
    order by ordinal_position`;
  return joinSql(
    rows.map(({ name }) => identifier(name)),
    ", ",
  );
}

/** Whether a table is there, with a column if one is named. */
const isThere = async (sql: Sql, table: string, column: string | null): Promise<boolean> =>
  (
    await sql`select 1 from information_schema.columns
      where table_schema = 'public' and table_name = ${table}
        and column_name = coalesce(${column}::text, column_name) limit 1`
  ).length > 0;

/** Whether all that a row `r` of a table points to is there. */
async function stillPoints(sql: Sql, table: string): Promise<SqlPiece> {
  const keys = await sql<{ column: string; parent: string; key: string }>`
    select a.attname as column, c.confrelid::regclass::text as parent, k.attname as key
    from pg_constraint c
    join pg_attribute a on a.attrelid = c.conrelid and a.attnum = c.conkey[1]
    join pg_attribute k on k.attrelid = c.confrelid and k.attnum = c.confkey[1]
    where c.contype = 'f' and c.conrelid = ${table}::regclass`;
  const each = keys.map(({ column, parent, key }) => {
    const at = identifier("r", column);
    return fragment`(${at} is null or exists (select 1 from ${identifier(parent)} p where p.${identifier(key)} = ${at}))`;
  });
  return joinSql([constantSql("true"), ...each], " and ");
}

/**
 * Puts back what was taken out, in a transaction; what hung on something that has gone since stays away. Gives its
 * label, or null where it is not kept any more, or another has its place.
 */
export async function putBack(sql: Sql, id: string): Promise<string | null> {
  const removed = first(await sql<{ label: string }>`select label from removed where id = ${id}`);
  if (!removed) return null;
  const kept = await sql<{ n: number; table: string; loosened: string | null }>`
    select n, table_name as table, loosened from removed_rows where removed_id = ${id} order by n`;
  for (const { n, table, loosened } of kept) {
    const name = identifier(table);
    // A table or a field of one's own may have gone since, and the rest comes back without it.
    if (!(await isThere(sql, table, loosened))) {
      if (n === 0) return null;
      continue;
    }
    const rows = fragment`(select k.rows from removed_rows k where k.removed_id = ${id} and k.n = ${n})`;
    if (loosened !== null) {
      const column = identifier(loosened);
      await sql`update ${name} t
        set ${column} = (jsonb_populate_record(null::${name}, jsonb_build_object(${loosened}::text, r.value))).${column}
        from jsonb_to_recordset(${rows}) as r(id text, value jsonb)
        where t.id::text = r.id and (t.${column} is null or r.value is null)`;
      continue;
    }
    const columns = await columnsOf(sql, table);
    const back = await sql`insert into ${name} (${columns}) overriding system value
      select ${columns} from jsonb_populate_recordset(null::${name}, ${rows}) r
      where ${await stillPoints(sql, table)} on conflict do nothing returning 1`;
    if (n === 0 && back.length === 0) return null;
  }
  await sql`delete from removed where id = ${id}`;
  return removed.label;
}

/** Lets go of what was removed before a time. */
export async function forgetRemoved(sql: Sql, before: Date): Promise<void> {
  await sql`delete from removed where removed_at < ${before}`;
}
