/** Taking an import back: some of what it did at a time. */
import { fragment, identifier, joinSql } from "#core/rules/index.ts";
import type { Sql } from "../../db/database.ts";
import { type columnsOf, typed } from "../columns.ts";
import { CONTACTS } from "../fields.ts";
import type { Import } from "../imports.ts";
import { pointNowhere } from "../records.ts";
import { destinationOf } from "./destination.ts";

/** What an import did with a person or a record. */
interface Change {
  readonly row: number;
  readonly added: boolean;
  /** It was put on the import's list. */
  readonly listed: boolean;
}

/** Some of what it did that is not taken back yet, after a row: what is gone before it is not looked through again. */
export const changesOf = (
  sql: Sql,
  id: string,
  after: number,
  most: number,
): Promise<Change[]> => sql<Change>`
  select row_id as row, before is null as added, listed from import_changes
  where import_id = ${id} and row_id > ${after} order by row_id limit ${most}`;

/** Takes these changes back, in a transaction. */
export async function undoRows(
  sql: Sql,
  { id, table, options }: Import,
  columns: ReturnType<typeof columnsOf>,
  changes: readonly Change[],
): Promise<void> {
  const into = destinationOf(table);
  const all = changes.map(({ row }) => row);
  const added = changes.filter((change) => change.added).map(({ row }) => row);
  if (options!.list && table === CONTACTS) {
    const listed = changes.filter((change) => change.listed).map(({ row }) => row);
    await sql`delete from list_members
      where list_id = ${options!.list} and contact_id = any (${listed}::bigint[])`;
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
