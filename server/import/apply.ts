/** Takes a checked import in, piece by piece, and takes it back. Either goes on after a stop where it was. */
import type { Field, Fields } from "#core/fields/index.ts";
import { fragment, identifier, joinSql, type Sql as SqlPiece } from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { inPieces } from "../jobs/pieces.ts";
import type { Services } from "../services.ts";
import { columnNames, columnsFrom, columnsOf, columnValues, typed } from "../store/columns.ts";
import { recallErased } from "../store/erasing.ts";
import { addFields, CONTACTS, getFields } from "../store/fields.ts";
import { getImport, type Import, setState } from "../store/imports.ts";
import { pointNowhere } from "../store/records.ts";
import { stage } from "./check.ts";
import { destinationOf } from "./destination.ts";
import { removeFile } from "./files.ts";
import { dropStaging, stagingOf, stillWhole } from "./staging.ts";

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
    values: fragment`${columnsFrom(asFields(fields), "s")}${joinSql(
      standards
        .flatMap((field) => columnValues(field, field.standard!))
        .map((value) => fragment`, ${value}`),
      "",
    )}`,
  };
}

/** Lines of a file, from the one after `after` up to `to`. */
interface Span {
  readonly after: number;
  readonly to: number;
}

/** The next rows to be taken in, at most so many; null where all are. */
async function nextSpan(sql: Sql, id: string, most: number): Promise<Span | null> {
  const row = first(
    await sql<{ after: number; to: number | null }>`select i.applied_to as after,
        (select max(line) from (select line from ${stagingOf(id).kept}
          where line > i.applied_to order by line limit ${most}) p) as to
      from imports i where i.id = ${id} and i.state = 'applying' for update`,
  );
  return row && row.to !== null ? { after: row.after, to: row.to } : null;
}

/** Goes on with an import in the state `applying`. */
export async function applyImport(services: Services, id: string): Promise<void> {
  const { database, clock, imports } = services;
  const found = await getImport(database.sql, id);
  if (found?.state !== "applying" || !found.options) return;
  const now = clock.now();
  // A crash of the database empties what waited: the file is read again, and goes on behind what is in.
  if (!(await stillWhole(database.sql, found))) {
    const { problem } = await stage(services, found);
    if (problem !== null) return setState(database.sql, id, "failed", problem);
  }
  await database.tx(async (sql) => {
    const before = await getFields(sql, found.table);
    const missing = found.newFields.filter((field) => !before.has(field.id));
    await addFields(sql, missing, found.table);
  });
  const known = await getFields(database.sql, found.table);
  const work: Work = { found, known, fields: fieldsOf(found, known), now };
  await inPieces(
    (rows) =>
      database.tx(async (sql) => {
        const span = await nextSpan(sql, id, rows);
        if (!span) return false;
        await applySpan(sql, work, span);
        await sql`update imports set applied_to = ${span.to} where id = ${id}`;
        return true;
      }),
    services,
  );
  await database.sql`update imports set state = 'done', done_at = ${now}, problem = null
    where id = ${id} and state = 'applying'`;
  await dropStaging(database.sql, id);
  await removeFile(imports.folder, id);
}

interface Work {
  readonly found: Import;
  readonly known: Fields;
  readonly fields: readonly Field[];
  readonly now: Date;
}

async function applySpan(sql: Sql, work: Work, span: Span): Promise<void> {
  const { found, fields } = work;
  const options = found.options!;
  const added = await addRows(sql, work, span);
  if (options.known === "change" && fields.length > 0) await changeRows(sql, work, span);
  if (found.table !== CONTACTS) return;
  if (options.list) await listPeople(sql, found.id, options.list, span);
  await recallErased(sql, added);
}

/** Adds the new rows of some lines; gives their ids. */
async function addRows(sql: Sql, { found, fields, known, now }: Work, span: Span) {
  const { id } = found;
  const into = destinationOf(found.table);
  const { rows, kept } = stagingOf(id);
  const columns = insertable(fields, known);
  const { folded, exact } = into.sql;
  const names = (alias: string[]) =>
    joinSql(
      into.columns.map((name) => identifier(...alias, name)),
      ", ",
    );
  const added = await sql<{ id: number }>`with added as (
      insert into ${into.at} (${names([])}${into.own.names}${columns.names})
      select ${names(["s"])}${into.own.values(now)}${columns.values}
      from ${kept} k join ${rows} s on s.line = k.line ${into.own.joins}
      where k.line > ${span.after} and k.line <= ${span.to} and k.what = 'added'
        and not exists (select 1 from ${into.at} c
          where c.${folded} = s.${folded} and c.${exact} = s.${exact})
      returning id
    )
    insert into import_changes (import_id, row_id) select ${id}, id from added returning row_id as id`;
  return added.map((row) => row.id);
}

async function changeRows(sql: Sql, { found, fields }: Work, span: Span): Promise<void> {
  const { id, options } = found;
  const into = destinationOf(found.table);
  const { rows, kept } = stagingOf(id);
  const columns = fields.flatMap(columnsOf);
  // New fields are kept as having had no value, so that taking it back takes theirs away.
  const parts = columns.map(
    ({ name }) => fragment`jsonb_build_object(${name}::text, ${identifier("c", name)})`,
  );
  await sql`insert into import_changes (import_id, row_id, before)
    select ${id}, c.id, ${joinSql(parts, " || ")} from ${kept} k join ${into.at} c on c.id = k.row_id
    where k.line > ${span.after} and k.line <= ${span.to} and k.what = 'changed'
    on conflict (import_id, row_id) do nothing`;
  const sets = columns.map(({ name }) => {
    const [own, read, before] = [identifier(name), identifier("s", name), identifier("c", name)];
    return options!.empty === "clear"
      ? fragment`${own} = ${read}`
      : fragment`${own} = coalesce(${read}, ${before})`;
  });
  await sql`update ${into.at} c set ${joinSql(sets, ", ")}
    from ${kept} k join ${rows} s on s.line = k.line
    where k.line > ${span.after} and k.line <= ${span.to} and k.what = 'changed' and c.id = k.row_id`;
}

async function listPeople(sql: Sql, id: string, list: string, span: Span): Promise<void> {
  const { rows, kept } = stagingOf(id);
  await sql`with listed as (
      insert into list_members (list_id, contact_id)
      select ${list}, c.id from ${kept} k join ${rows} s on s.line = k.line
      join contacts c on c.id = coalesce(k.row_id, (select n.id from contacts n
        where n.email_folded = s.email_folded and n.email_key = s.email_key))
      where k.line > ${span.after} and k.line <= ${span.to}
        and exists (select 1 from lists where id = ${list})
      on conflict do nothing returning contact_id
    )
    insert into import_changes (import_id, row_id, before, listed)
    select ${id}, contact_id, '{}', true from listed
    on conflict (import_id, row_id) do update set listed = true`;
}

/** Takes an import back: those it added are gone, those it changed are as before, lists too. */
export async function undoImport(services: Services, id: string): Promise<void> {
  const { database } = services;
  const found = await getImport(database.sql, id);
  if (found?.state !== "undoing" || !found.options) return;
  const known = await getFields(database.sql, found.table);
  const columns = fieldsOf(found, known).flatMap(columnsOf);
  await inPieces(
    (rows) =>
      database.tx(async (sql) => {
        const changes = await sql<{ row: number; added: boolean }>`
          select row_id as row, before is null as added from import_changes
          where import_id = ${id} order by row_id limit ${rows}`;
        if (changes.length === 0) return false;
        await undoRows(sql, found, columns, changes);
        return true;
      }),
    services,
  );
  await setState(database.sql, id, "undone");
}

async function undoRows(
  sql: Sql,
  { id, table, options }: Import,
  columns: ReturnType<typeof columnsOf>,
  changes: readonly { row: number; added: boolean }[],
): Promise<void> {
  const into = destinationOf(table);
  const all = changes.map(({ row }) => row);
  const added = changes.filter((change) => change.added).map(({ row }) => row);
  if (options!.list && table === CONTACTS) {
    await sql`delete from list_members m using import_changes i
      where i.import_id = ${id} and i.row_id = any (${all}::bigint[]) and i.listed
        and m.contact_id = i.row_id and m.list_id = ${options!.list}`;
  }
  if (columns.length > 0) {
    const sets = columns.map(
      ({ name }) =>
        fragment`${identifier(name)} = case when i.before ? ${name}::text then ${identifier("b", name)} else ${identifier("c", name)} end`,
    );
    await sql`update ${into.at} c set ${joinSql(sets, ", ")}
      from import_changes i, jsonb_to_record(i.before) as b(${joinSql(columns.map(typed), ", ")})
      where i.import_id = ${id} and i.row_id = any (${all}::bigint[])
        and i.before is not null and c.id = i.row_id`;
  }
  if (table !== CONTACTS)
    await pointNowhere(sql, table, fragment`select unnest(${added}::bigint[])`);
  await sql`delete from ${into.at} where id = any (${added}::bigint[])`;
  await sql`delete from import_changes where import_id = ${id} and row_id = any (${all}::bigint[])`;
}

/** Throws away an import that was not applied. */
export async function throwAway(services: Services, id: string): Promise<void> {
  const { database, imports } = services;
  await dropStaging(database.sql, id);
  await removeFile(imports.folder, id);
  await database.sql`delete from imports where id = ${id} and applied_to < 0
    and state in ('uploaded', 'checked', 'failed')`;
}
