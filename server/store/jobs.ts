/** The queue: work to be done at a time, in the database, so that a restart loses nothing. */
import { fragment, joinSql, type Sql as SqlPiece } from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";

export interface Job {
  readonly id: number;
  readonly kind: string;
  readonly payload: unknown;
  /** How often it went wrong since it last went well. */
  readonly failures: number;
}

export async function enqueue(
  sql: Sql,
  kind: string,
  payload: unknown,
  runAt: Date,
): Promise<void> {
  await sql`insert into jobs (kind, payload, run_at)
    values (${kind}, ${jsonb(payload)}, ${runAt})`;
}

/** Has work done at a time or before: one job for it, whether there is one already or not. In a transaction. */
export async function hurry(sql: Sql, kind: string, payload: unknown, runAt: Date): Promise<void> {
  const known = await sql`update jobs set run_at = least(run_at, ${runAt}::timestamptz)
    where kind = ${kind} and payload = ${jsonb(payload)} and state = 'waiting' returning id`;
  if (known.length === 0) await enqueue(sql, kind, payload, runAt);
}

/** Has work that waits done at another time. In a transaction. */
export async function moveJob(
  sql: Sql,
  kind: string,
  payload: unknown,
  runAt: Date,
): Promise<void> {
  const known = await sql`update jobs set run_at = ${runAt}
    where kind = ${kind} and payload = ${jsonb(payload)} and state = 'waiting' returning id`;
  if (known.length === 0) await enqueue(sql, kind, payload, runAt);
}

/** Whether work is being done, or is due. */
export const isAtWork = async (
  sql: Sql,
  kind: string,
  payload: unknown,
  now: Date,
): Promise<boolean> =>
  first(
    await sql`select 1 from jobs where kind = ${kind} and payload = ${jsonb(payload)}
      and (state = 'running' or (state = 'waiting' and run_at <= ${now})) limit 1`,
  ) !== null;

/** Which jobs a lane takes: those of these kinds, or all but those. */
export interface Lane {
  readonly kinds: readonly string[];
  readonly others: boolean;
}
const ANY: Lane = { kinds: [], others: true };

const takesSql = ({ kinds, others }: Lane): SqlPiece =>
  fragment`(kind = any (${[...kinds]}::text[])) <> ${others}::boolean`;

/** For each of these lanes whether it has work that is due. */
export async function dueLanes(sql: Sql, now: Date, lanes: readonly Lane[]): Promise<boolean[]> {
  const has = lanes.map((lane) => fragment`coalesce(bool_or(${takesSql(lane)}), false)`);
  const row = first(
    await sql<{ due: boolean[] }>`select array[${joinSql(has, ", ")}] as due from jobs
      where state = 'waiting' and run_at <= ${now}`,
  );
  return row!.due;
}

/** Takes the job that has been due longest, of a lane, for the holder of a lease; once, whoever asks. */
export async function takeJob(sql: Sql, lease: string, now: Date, lane = ANY): Promise<Job | null> {
  return first(
    await sql<Job>`update jobs set state = 'running', tries = tries + 1, lease = ${lease}
      where id = (select id from jobs where state = 'waiting' and run_at <= ${now}
          and ${takesSql(lane)}
        order by run_at, id limit 1 for update skip locked)
      returning id, kind, payload, failures`,
  );
}

export async function endJob(
  sql: Sql,
  id: number,
  lease: string,
  error: string | null,
): Promise<void> {
  // What is done keeps nothing of what it was about.
  await sql`update jobs set state = ${error === null ? "done" : "failed"}, error = ${error}, lease = null,
      payload = case when ${error}::text is null then '{}'::jsonb else payload end
    where id = ${id} and lease = ${lease}`;
}

/** It went well so far, and goes on later: by another job where somebody has asked for the same meanwhile. */
export async function postponeJob(sql: Sql, id: number, lease: string, runAt: Date): Promise<void> {
  await sql`update jobs j set run_at = ${runAt}, error = null, failures = 0, lease = null,
      state = case when exists (select 1 from jobs o where o.kind = j.kind and o.payload = j.payload
        and o.state = 'waiting' and o.id <> j.id) then 'done' else 'waiting' end
    where id = ${id} and lease = ${lease}`;
}

/** It went wrong, and is tried again later. */
export async function retryJob(
  sql: Sql,
  id: number,
  lease: string,
  runAt: Date,
  error: string,
): Promise<void> {
  await sql`update jobs set state = 'waiting', run_at = ${runAt}, error = ${error},
    failures = failures + 1, lease = null where id = ${id} and lease = ${lease}`;
}

/** Jobs of those whose lease has run out wait again. */
export async function recoverJobs(sql: Sql, now: Date): Promise<void> {
  await sql`update jobs j set state = 'waiting', lease = null where state = 'running'
    and not exists (select 1 from leases l where l.token = j.lease and l.until > ${now})`;
}
