/** Taking rows that wait in: those of some lines at a time. */
import type { Field, Fields } from "#core/fields/index.ts";
import { fragment, identifier, joinSql, type Sql as SqlPiece } from "#core/rules/index.ts";
import { first, type Sql } from "../../db/database.ts";
import { columnNames, columnsFrom, columnsOf, columnValues } from "../columns.ts";
import { recallErased } from "../erasing.ts";
import { CONTACTS } from "../fields.ts";
import type { Import } from "../imports.ts";
import { destinationOf } from "./destination.ts";
import { stagingOf } from "./staging.ts";

/** The fields a file brings values for, in the order of the staging table. */
export function fieldsOf({ options, newFields }: Import, known: Fields): Field[] {
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
export interface Span {
  readonly after: number;
  readonly to: number;
}

/** The next rows to be taken in, at most so many; null where all are. */
export async function nextSpan(sql: Sql, id: string, most: number): Promise<Span | null> {
  const row = first(
    await sql<{ after: number; to: number | null }>`select i.applied_to as after,
        (select max(line) from (select line from ${stagingOf(id).kept}
          where line > i.applied_to order by line limit ${most}) p) as to
      from imports i where i.id = ${id} and i.state = 'applying' for update`,
  );
  return row && row.to !== null ? { after: row.after, to: row.to } : null;
}

/** What is taken in, and what it brings. */
export interface Work {
  readonly found: Import;
  readonly known: Fields;
  readonly fields: readonly Field[];
  readonly now: Date;
}

/** Takes the rows of some lines in, in a transaction. */
export async function applySpan(sql: Sql, work: Work, span: Span): Promise<void> {
  const { found, fields } = work;
  const options = found.options!;
  const added = await addRows(sql, work, span);
  if (options.known === "change" && fields.length > 0) await changeRows(sql, work, span);
  if (found.table !== CONTACTS) return;
  if (options.list) await listPeople(sql, found.id, options.list, span, added);
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

async function listPeople(
  sql: Sql,
  id: string,
  list: string,
  span: Span,
  added: readonly number[],
): Promise<void> {
  const { kept } = stagingOf(id);
  const known = await sql<{ id: number }>`select row_id as id from ${kept}
    where line > ${span.after} and line <= ${span.to} and row_id is not null`;
  const people = [...added, ...known.map((row) => row.id)];
  // The list may have been removed since somebody chose it.
  await sql`with listed as (
      insert into list_members (list_id, contact_id)
      select ${list}, unnest(${people}::bigint[]) where exists (select 1 from lists where id = ${list})
      on conflict do nothing returning contact_id
    )
    insert into import_changes (import_id, row_id, before, listed)
    select ${id}, contact_id, '{}', true from listed
    on conflict (import_id, row_id) do update set listed = true`;
}
