/** What has ended and is of no more use. Each removes at most so many rows, and gives how many. */
import type { Sql } from "../db/database.ts";

export const endedJobs = async (sql: Sql, before: Date, most: number): Promise<number> =>
  (
    await sql`delete from jobs where id in (
      select id from jobs where state in ('done', 'failed') and run_at < ${before} limit ${most})
      returning id`
  ).length;

export const endedSessions = async (sql: Sql, now: Date, most: number): Promise<number> =>
  (
    await sql`delete from sessions where id in (
      select id from sessions where expires_at < ${now} limit ${most}) returning id`
  ).length;

/**
 * Takes an address out of the rows that imports refused, looking at `most` of them from a place on. Gives the
 * next place, or null at the end.
 */
export async function forgetInRefused(
  sql: Sql,
  email: string,
  from: RefusedPlace,
  most: number,
): Promise<RefusedPlace | null> {
  const like = `%${email.replace(/[\\%_]/g, "\\$&")}%`;
  const rows = await sql<RefusedPlace & { found: boolean }>`
    select import_id as "import", line, cells::text like ${like} as found from import_refused
    where (import_id, line) > (${from.import}::text, ${from.line}::int)
    order by import_id, line limit ${most}`;
  for (const { import: id, line, found } of rows) {
    if (found) await sql`delete from import_refused where import_id = ${id} and line = ${line}`;
  }
  const last = rows.at(-1);
  return rows.length < most || !last ? null : { import: last.import, line: last.line };
}
export interface RefusedPlace {
  readonly import: string;
  readonly line: number;
}
