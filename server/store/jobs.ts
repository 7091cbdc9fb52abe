/** The queue: work to be done at a time, in the database, so that a restart loses nothing. */
import { first, type Sql } from "../db/database.ts";

export interface Job {
  readonly id: number;
  readonly kind: string;
  readonly payload: unknown;
  readonly tries: number;
}

export async function enqueue(
  sql: Sql,
  kind: string,
  payload: unknown,
  runAt: Date,
): Promise<void> {
  await sql`insert into jobs (kind, payload, run_at)
    values (${kind}, ${JSON.stringify(payload)}::jsonb, ${runAt})`;
}

/** Which jobs a lane takes: those of these kinds, or all but those. */
export interface Lane {
  readonly kinds: readonly string[];
  readonly others: boolean;
}
const ANY: Lane = { kinds: [], others: true };

/** Takes the job that has been due longest, of a lane; once, whoever asks. */
export async function takeJob(sql: Sql, now: Date, lane = ANY): Promise<Job | null> {
  return first(
    await sql<Job>`update jobs set state = 'running', tries = tries + 1
      where id = (select id from jobs where state = 'waiting' and run_at <= ${now}
          and (kind = any (${[...lane.kinds]}::text[])) <> ${lane.others}::boolean
        order by run_at, id limit 1 for update skip locked)
      returning id, kind, payload, tries`,
  );
}

export async function endJob(sql: Sql, id: number, error: string | null): Promise<void> {
  await sql`update jobs set state = ${error === null ? "done" : "failed"}, error = ${error}
    where id = ${id}`;
}

export async function postponeJob(
  sql: Sql,
  id: number,
  runAt: Date,
  error: string | null = null,
): Promise<void> {
  await sql`update jobs set state = 'waiting', run_at = ${runAt}, error = ${error} where id = ${id}`;
}

/** Jobs that ran when the process ended wait again. */
export async function recoverJobs(sql: Sql): Promise<void> {
  await sql`update jobs set state = 'waiting' where state = 'running'`;
}
