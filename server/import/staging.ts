/**
 * Where the rows of a file wait until somebody has looked at what would happen. `rows` holds what was read,
 * `kept` which of them count and whom each is about; both are gone once the import is applied or thrown away.
 */
import type { Field } from "#core/fields/index.ts";
import { constantSql, fragment, type Sql as SqlPiece } from "#core/rules/index.ts";
import type { Sql } from "../db/database.ts";
import { columnsOf, definition } from "../store/columns.ts";
import type { Destination } from "./destination.ts";

export interface Staging {
  readonly rows: SqlPiece;
  readonly kept: SqlPiece;
}

export function stagingOf(id: string): Staging {
  if (!/^[A-Za-z0-9]{12}$/.test(id)) throw new Error(`Not an import's id: ${id}`);
  return { rows: constantSql(`"import_${id}_rows"`), kept: constantSql(`"import_${id}_kept"`) };
}

export async function dropStaging(sql: Sql, id: string): Promise<void> {
  const { rows, kept } = stagingOf(id);
  await sql`drop table if exists ${kept}`;
  await sql`drop table if exists ${rows}`;
}

/** Makes the empty table for the rows of these fields. A crash empties it: then the file is read again. */
export async function makeRows(
  sql: Sql,
  id: string,
  { columns: keys }: Destination,
  fields: readonly Field[],
): Promise<SqlPiece> {
  await dropStaging(sql, id);
  const columns = fields.flatMap(columnsOf).map((column) => `, ${definition(column)}`);
  const { rows } = stagingOf(id);
  const known = keys.map((name) => `, ${name} text collate "C" not null`).join("");
  await sql`create unlogged table ${rows} (line int not null${constantSql(known + columns.join(""))})`;
  const names = fields.flatMap(columnsOf).map(({ name }) => `, ${name}`);
  return fragment`${rows} (line, ${constantSql(keys.join(", ") + names.join(""))})`;
}

/** Whether a row says anything else than what is known of its person or record. */
export function differs(fields: readonly Field[], clear: boolean): SqlPiece {
  if (fields.length === 0) return constantSql("false");
  const tests = fields.map(({ id }) =>
    clear
      ? `c.f_${id} is distinct from s.f_${id}`
      : `(s.f_${id} is not null and c.f_${id} is distinct from s.f_${id})`,
  );
  return constantSql(tests.join(" or "));
}
