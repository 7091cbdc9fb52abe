/**
 * What a database server does by itself in the background and an embedded one does not: the room of rows that are
 * gone is given free, and what is known of a table for planning is renewed. One table at a time, and only where
 * enough has changed; without it a count of many people takes three times as long (PostgreSQL: routine vacuuming).
 */
import { identifier } from "#core/rules/index.ts";
import { first, type Sql } from "./database.ts";

/** How many rows and which part (one in so many) of a table may be gone or changed before it is looked after. */
const ROWS = 500;
const PART = 10;

const EVERY_MS = 1_000;

/** Looks after the table that needs it most; gives its name, or null where none does. Not in a transaction. */
export async function tendTable(sql: Sql): Promise<string | null> {
  const row = first(
    await sql<{ schema: string; name: string; gone: boolean }>`
      select schemaname as schema, s.relname as name, n_dead_tup > ${ROWS} + n_live_tup / ${PART} as gone
      from pg_stat_user_tables s join pg_class c on c.oid = s.relid
      -- Unlogged tables stand for the length of one work, which reads them from end to end.
      where c.relpersistence = 'p'
        and greatest(n_dead_tup, n_mod_since_analyze) > ${ROWS} + n_live_tup / ${PART}
      order by greatest(n_dead_tup, n_mod_since_analyze) desc limit 1`,
  );
  if (!row) return null;
  const table = identifier(row.schema, row.name);
  if (row.gone) await sql`vacuum (analyze) ${table}`;
  else await sql`analyze ${table}`;
  return row.name;
}

/** Looks after tables, and does the other chores, from now on. Gives the way to stop, done once the last is done. */
export function startUpkeep(
  sql: Sql,
  failed: (error: unknown) => void,
  ...chores: readonly ((sql: Sql) => Promise<unknown>)[]
): () => Promise<void> {
  let stopped = false;
  let timer: ReturnType<typeof setTimeout>;
  let working = Promise.resolve();
  const work = async () => {
    for (const chore of [tendTable, ...chores]) await chore(sql).catch(failed);
    if (!stopped) wait();
  };
  const wait = () => {
    timer = setTimeout(() => {
      working = work();
    }, EVERY_MS);
  };
  wait();
  return () => {
    stopped = true;
    clearTimeout(timer);
    return working;
  };
}
