/** Takes a checked import in, as a whole; and takes it back, as a whole. */
import type { Field, Fields } from "#core/fields/index.ts";
import { LIMITS } from "#core/limits.ts";
import { constantSql, fragment, joinSql, type Sql as SqlPiece } from "#core/rules/index.ts";
import type { Sql } from "../db/database.ts";
import type { Services } from "../services.ts";
import { columnNames, columnsFrom, columnsOf, columnValues } from "../store/columns.ts";
import { recallErased } from "../store/erasing.ts";
import { addFields, CONTACTS, getFields } from "../store/fields.ts";
import { getImport, type Import, setState } from "../store/imports.ts";
import { pointNowhere } from "../store/records.ts";
import { type Destination, destinationOf } from "./destination.ts";
import { removeFile } from "./files.ts";
import { dropStaging, stagingOf } from "./staging.ts";

/** The fields a file brings values for, in the order of the staging table. */
function fieldsOf({ options, newFields }: Import, known: Fields): Field[] {
  return (options?.columns ?? []).flatMap((column) => {
    if (column.to === "field") return known.get(column.field) ?? [];
    return column.to === "new" ? (newFields.find(({ id }) => id === column.field) ?? []) : [];
  });
}

const asFields = (fields: readonly Field[]): Fields =>
  new Map(fields.map((field) => [field.id, field]));

/** Standard values stand in where a new person brings none. */
function insertable(
  fields: readonly Field[],
  known: Fields,
): { names: SqlPiece; values: SqlPiece } {
  const own = new Set(fields.map(({ id }) => id));
  const standards = [...known.values()].filter(
    ({ id, standard }) => !own.has(id) && standard !== null && standard !== undefined,
  );
  return {
    names: fragment`${columnNames(asFields(fields))}${columnNames(asFields(standards))}`,
    values: fragment`${columnsFrom(asFields(fields), "s")}${standards.length ? constantSql(", ") : constantSql("")}${
      standards.length
        ? joinSql(
            standards.flatMap((field) => columnValues(field, field.standard!)),
            ", ",
          )
        : constantSql("")
    }`,
  };
}

/** Whether all rows that were read still wait: a crash of the database empties their tables. */
async function stillWhole(sql: Sql, { id, added, changed, same }: Import): Promise<boolean> {
  const [row] = await sql<{ n: number }>`select count(*)::int as n from ${stagingOf(id).kept}`;
  return row?.n === added + changed + same;
}

/** Waits for its turn in the queue; the import is in the state `applying`. */
export async function applyImport(services: Services, id: string): Promise<void> {
  const { database, clock, imports } = services;
  const found = await getImport(database.sql, id);
  if (found?.state !== "applying" || !found.options) return;
  const now = clock.now();
  const { options } = found;
  if (!(await stillWhole(database.sql, found))) {
    const problem = "Septima was stopped in between. Read the file again.";
    return setState(database.sql, id, "failed", problem);
  }
  await database.tx(async (sql) => {
    const into = destinationOf(found.table);
    const before = await getFields(sql, found.table);
    await addFields(
      sql,
      found.newFields.filter((field) => !before.has(field.id)),
      found.table,
    );
    const known = await getFields(sql, found.table);
    const fields = fieldsOf(found, known);
    await addRows(sql, id, into, fields, known, now);
    if (options.known === "change") {
      await changeRows(sql, id, into, fields, options.empty === "clear");
    }
    if (found.table === CONTACTS) {
      if (options.list) await listPeople(sql, id, options.list);
      await recallErased(sql);
    }
    await sql`update imports set state = 'done', done_at = ${now} where id = ${id}`;
  }, LIMITS.importApply);
  await dropStaging(database.sql, id);
  await removeFile(imports.folder, id);
}

async function addRows(
  sql: Sql,
  id: string,
  into: Destination,
  fields: readonly Field[],
  known: Fields,
  now: Date,
): Promise<void> {
  const { rows, kept } = stagingOf(id);
  const columns = insertable(fields, known);
  const [folded, exact] = [constantSql(into.folded), constantSql(into.exact)];
  await sql`with added as (
      insert into ${into.at} (${constantSql(into.columns.join(", "))}${into.own.names}${columns.names})
      select ${constantSql(into.columns.map((name) => `s.${name}`).join(", "))}${into.own.values(now)}${columns.values}
      from ${kept} k join ${rows} s on s.line = k.line ${into.own.joins}
      where k.what = 'added'
        and not exists (select 1 from ${into.at} c
          where c.${folded} = s.${folded} and c.${exact} = s.${exact})
      returning id
    )
    insert into import_changes (import_id, row_id) select ${id}, id from added`;
}

async function changeRows(
  sql: Sql,
  id: string,
  into: Destination,
  fields: readonly Field[],
  clear: boolean,
): Promise<void> {
  if (fields.length === 0) return;
  const { rows, kept } = stagingOf(id);
  // New fields are kept as having had no value, so that taking it back takes theirs away.
  const parts = fields
    .flatMap(columnsOf)
    .map(({ name }) => fragment`jsonb_build_object(${name}::text, ${constantSql(`c.${name}`)})`);
  const state = joinSql(parts, " || ");
  await sql`insert into import_changes (import_id, row_id, before)
    select ${id}, c.id, ${state} from ${kept} k join ${into.at} c on c.id = k.row_id
    where k.what = 'changed'`;
  const sets = fields
    .flatMap(columnsOf)
    .map(({ name }) =>
      clear ? `${name} = s.${name}` : `${name} = coalesce(s.${name}, c.${name})`,
    );
  await sql`update ${into.at} c set ${constantSql(sets.join(", "))}
    from ${kept} k join ${rows} s on s.line = k.line
    where k.what = 'changed' and c.id = k.row_id`;
}

async function listPeople(sql: Sql, id: string, list: string): Promise<void> {
  const { rows, kept } = stagingOf(id);
  await sql`with listed as (
      insert into list_members (list_id, contact_id)
      select ${list}, c.id from ${kept} k join ${rows} s on s.line = k.line
      join contacts c on c.id = coalesce(k.row_id, (select n.id from contacts n
        where n.email_folded = s.email_folded and n.email_key = s.email_key))
      on conflict do nothing returning contact_id
    )
    insert into import_changes (import_id, row_id, before, listed)
    select ${id}, contact_id, '{}', true from listed
    on conflict (import_id, row_id) do update set listed = true`;
}

const addedBy = (id: string): SqlPiece =>
  fragment`select row_id from import_changes where import_id = ${id} and before is null`;

/** Takes an import back: those it added are gone, those it changed are as before, lists too. */
export async function undoImport(services: Services, id: string): Promise<void> {
  const { database } = services;
  const found = await getImport(database.sql, id);
  if (found?.state !== "undoing" || !found.options) return;
  await database.tx(async (sql) => {
    const into = destinationOf(found.table);
    const known = await getFields(sql, found.table);
    if (found.options!.list && found.table === CONTACTS) {
      await sql`delete from list_members m using import_changes i
        where i.import_id = ${id} and i.listed and m.contact_id = i.row_id
          and m.list_id = ${found.options!.list}`;
    }
    const columns = fieldsOf(found, known).flatMap(columnsOf);
    if (columns.length > 0) {
      const types = columns.map(({ name, type }) => `${name} ${type}`).join(", ");
      const sets = columns.map(
        ({ name }) => `${name} = case when i.before ? '${name}' then b.${name} else c.${name} end`,
      );
      await sql`update ${into.at} c set ${constantSql(sets.join(", "))}
        from import_changes i, jsonb_to_record(i.before) as b(${constantSql(types)})
        where i.import_id = ${id} and i.before is not null and c.id = i.row_id`;
    }
    if (found.table !== CONTACTS) await pointNowhere(sql, found.table, addedBy(id));
    await sql`delete from ${into.at} where id in (${addedBy(id)})`;
    await sql`delete from import_changes where import_id = ${id}`;
    await setState(sql, id, "undone");
  }, LIMITS.importApply);
}

/** Throws away an import that was not applied. */
export async function throwAway(services: Services, id: string): Promise<void> {
  const { database, imports } = services;
  await dropStaging(database.sql, id);
  await removeFile(imports.folder, id);
  await database.sql`delete from imports where id = ${id} and state in ('uploaded', 'checked', 'failed')`;
}
