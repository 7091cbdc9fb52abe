/**
 * Where the rows of a file wait until somebody has looked at what would happen. `rows` holds what was read,
 * `kept` which of them count and whom each is about; both are gone once the import is applied or thrown away.
 */
import type { Field } from "#core/fields/index.ts";
import {
  constantSql,
  fragment,
  identifier,
  joinSql,
  type Sql as SqlPiece,
} from "#core/rules/index.ts";
import { first, type Sql } from "../../db/database.ts";
import { columnsOf, definition } from "../columns.ts";
import type { Import } from "../imports.ts";
import type { Destination } from "./destination.ts";

export interface Staging {
  readonly rows: SqlPiece;
  readonly kept: SqlPiece;
}

const namesOf = (id: string) => [`import_${id}_rows`, `import_${id}_kept`] as const;

export function stagingOf(id: string): Staging {
  const [rows, kept] = namesOf(id);
  return { rows: identifier(rows), kept: identifier(kept) };
}

export async function dropStaging(sql: Sql, id: string): Promise<void> {
  const { rows, kept } = stagingOf(id);
  await sql`drop table if exists ${kept}`;
  await sql`drop table if exists ${rows}`;
}

/** Makes the empty tables for rows of these fields. A crash empties them: then the file is read again. */
export async function makeRows(
  sql: Sql,
  id: string,
  { columns: keys }: Destination,
  fields: readonly Field[],
): Promise<SqlPiece> {
  await dropStaging(sql, id);
  const { rows, kept } = stagingOf(id);
  const columns = fields.flatMap(columnsOf);
  const known = keys.map((name) => fragment`${identifier(name)} text collate "C" not null`);
  await sql`create unlogged table ${rows} (line int primary key, ${joinSql([...known, ...columns.map(definition)], ", ")})`;
  await sql`create unlogged table ${kept} (line int primary key,
    folded text collate "C" unique not null, row_id bigint, what text not null)`;
  const names = [...keys, ...columns.map(({ name }) => name)].map((name) => identifier(name));
  return fragment`${rows} (line, ${joinSql(names, ", ")})`;
}

/** Whether all rows that were read still wait. */
export async function stillWhole(
  sql: Sql,
  { id, added, changed, same }: Pick<Import, "id" | "added" | "changed" | "same">,
): Promise<boolean> {
  const there = await sql`select 1 from pg_class where relname = any (${[...namesOf(id)]}::text[])`;
  if (there.length < 2) return false;
  const row = first(
    await sql<{ n: number }>`select count(*)::int as n from ${stagingOf(id).kept}`,
  )!;
  return row.n === added + changed + same;
}

/** Whether a row says anything else than what is known of its person or record. */
export function differs(fields: readonly Field[], clear: boolean): SqlPiece {
  if (fields.length === 0) return constantSql("false");
  const tests = fields.map((field) => {
    const { name } = columnsOf(field)[0]!;
    const [known, read] = [identifier("c", name), identifier("s", name)];
    return clear
      ? fragment`${known} is distinct from ${read}`
      : fragment`(${read} is not null and ${known} is distinct from ${read})`;
  });
  return joinSql(tests, " or ");
}
