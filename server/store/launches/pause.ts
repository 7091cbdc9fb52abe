/** A launch that stands still, goes on, or ends. */
import type { Pause } from "#core/delivery/index.ts";
import { first, type Sql } from "../../db/database.ts";
import { enqueue } from "../jobs.ts";

/** Cancels a launch that has not started. Gives whether it was still time. */
export async function cancelLaunch(sql: Sql, id: string): Promise<boolean> {
  const rows = await sql`update launches set state = 'cancelled'
    where id = ${id} and state = 'scheduled' returning id`;
  return rows.length > 0;
}

export interface Paused {
  readonly why: Pause;
  /** In the service's words, or those of what went wrong. */
  readonly reason: string;
  /** When it tries by itself; null where a person is waited for. */
  readonly resumeAt: Date | null;
}

/** Stops a launch that is being sent. Gives whether it was. */
export async function pauseLaunch(
  sql: Sql,
  id: string,
  { why, reason, resumeAt }: Paused,
  now: Date,
): Promise<boolean> {
  const rows =
    await sql`update launches set state = 'paused', pause = ${why}, pause_reason = ${reason},
      paused_at = ${now}, resume_at = ${resumeAt}, waits = waits + 1
    where id = ${id} and state = 'sending' returning id`;
  return rows.length > 0;
}

/** Messages were taken: the service is there. */
export async function forgetWaits(sql: Sql, id: string): Promise<void> {
  await sql`update launches set waits = 0 where id = ${id} and waits > 0`;
}

export const waitsOf = async (sql: Sql, id: string): Promise<number> =>
  first(await sql<{ waits: number }>`select waits from launches where id = ${id}`)?.waits ?? 0;

/** Why a launch stands still; null where it does not. */
export const pauseOf = async (sql: Sql, id: string): Promise<Pause | null> =>
  first(
    await sql<{
      pause: Pause | null;
    }>`select pause from launches where id = ${id} and state = 'paused'`,
  )?.pause ?? null;

/** Lets a paused launch go on, with what a person says by that. Gives why it stood, or null where it did not. */
export async function resumeLaunch(sql: Sql, id: string, now: Date): Promise<Pause | null> {
  const row = first(
    await sql<{ pause: Pause }>`
      with before as (select id, pause from launches where id = ${id} and state = 'paused' for update)
      update launches l set state = 'sending', pause = null, pause_reason = null, paused_at = null,
        resume_at = null, bounces_allowed = l.bounces_allowed or b.pause = 'bounces'
      from before b where l.id = b.id returning b.pause`,
  );
  if (row?.pause === "message") {
    // Whoever lets it go on has spoken with the service: what it refused is tried again.
    await sql`update recipients set state = 'waiting', next_try_at = ${now}, settled_at = null
      where launch_id = ${id} and state = 'refused'`;
  }
  return row?.pause ?? null;
}

/** Ends a launch that was begun: who has not got it by now does not. Gives how many, or null where it had ended. */
export async function stopLaunch(sql: Sql, id: string, now: Date): Promise<number | null> {
  const row = first(
    await sql<{ n: number }>`select count(*)::int as n from recipients
      where launch_id = ${id} and state in ('rest', 'waiting', 'deferred', 'claimed')`,
  )!;
  const ended = await sql`update launches set state = 'done', finished_at = ${now}, pause = null,
      pause_reason = null, resume_at = null, readers_to = null
    where id = ${id} and state in ('sending', 'paused') returning id`;
  if (ended.length === 0) return null;
  await sql`update recipients set state = 'left', settled_at = ${now}
    where launch_id = ${id} and state = 'unsure'`;
  // They are many: they are written down as left out piece by piece, and nobody sends them meanwhile.
  await enqueue(sql, "leaveOut", { launch: id }, now);
  return row.n;
}

/** Writes some of those down who do not get a launch that has ended; gives how many. */
export async function leaveOut(sql: Sql, id: string, most: number, now: Date): Promise<number> {
  const rows =
    await sql`update recipients set state = 'cancelled', settled_at = ${now}, lease = null
    where id in (
      select r.id from recipients r join launches l on l.id = r.launch_id and l.state = 'done'
      where r.launch_id = ${id} and r.state in ('rest', 'waiting', 'deferred', 'claimed')
      order by r.state, r.id limit ${most}) returning 1`;
  return rows.length;
}

/** Gives whether it was being sent. */
export async function finishLaunch(sql: Sql, id: string, now: Date): Promise<boolean> {
  const rows = await sql`update launches set state = 'done', finished_at = ${now}
    where id = ${id} and state = 'sending' returning 1`;
  return rows.length > 0;
}

/** Launches that somebody has to work on: to be started, gone on with, or tried again. */
export const unfinishedLaunches = (sql: Sql): Promise<{ id: string; at: Date }[]> => sql`
  select id, greatest(coalesce(starts_at, send_at), coalesce(resume_at, starts_at, send_at)) as at from launches
  where state in ('scheduled', 'sending') or (state = 'paused' and resume_at is not null)`;
