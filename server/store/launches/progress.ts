/** How far a launch has come. */
import type { Pause } from "#core/delivery/index.ts";
import type { Json } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { first, type Sql } from "../../db/database.ts";

/** When the next message of a launch is due; null when none is waited for. What is on a line is looked after too. */
export async function nextDue(sql: Sql, launchId: string, now: Date): Promise<Date | null> {
  const row = first(
    await sql<{ at: Date | null; busy: boolean }>`select
        (select min(next_try_at) from recipients where launch_id = ${launchId}
          and state in ('waiting', 'deferred')) as at,
        exists (select 1 from recipients where launch_id = ${launchId}
          and state in ('claimed', 'handed')) as busy`,
  )!;
  const times = [
    row.at?.getTime() ?? Number.POSITIVE_INFINITY,
    row.busy ? now.getTime() + LIMITS.leaseMs / 4 : Number.POSITIVE_INFINITY,
  ];
  const at = Math.min(...times);
  return Number.isFinite(at) ? new Date(at) : null;
}

const STATES = [
  "accepted",
  "bounced",
  "refused",
  "deferred",
  "held",
  "unsure",
  "left",
  "cancelled",
  "rest",
  "control",
] as const;
export type Progress = { readonly total: number } & Readonly<
  Record<(typeof STATES)[number], number>
>;

export async function progressOf(sql: Sql, launchId: string): Promise<Progress> {
  const rows = await sql<{ state: string; n: number }>`
    select state, count(*)::int as n from recipients where launch_id = ${launchId} group by state`;
  const counts = new Map(rows.map(({ state, n }) => [state, n]));
  return {
    total: rows.reduce((sum, { n }) => sum + n, 0),
    ...(Object.fromEntries(STATES.map((state) => [state, counts.get(state) ?? 0])) as Record<
      (typeof STATES)[number],
      number
    >),
  };
}

/** Messages a second that went out lately, where nothing held them up; null where there were too few to tell. */
export const usualRate = async (sql: Sql): Promise<number | null> =>
  first(
    await sql<{ rate: number | null }>`
      select max(t.accepted / extract(epoch from l.finished_at - l.started_at))::float8 as rate
      from (select id, started_at, finished_at from launches
        where state = 'done' and finished_at > started_at
          and (pace is null or (pace -> 'own' = 'null' and pace -> 'perHour' = 'null'))
        order by finished_at desc limit ${LIMITS.ratedLaunches}) l
      join launch_totals t on t.launch_id = l.id and t.accepted >= ${LIMITS.ratedFrom}`,
  )?.rate ?? null;

/** How a launch stands, for a page. */
export interface Standing {
  readonly why: Pause | null;
  readonly reason: string | null;
  readonly since: Date | null;
  readonly resumeAt: Date | null;
  /** Its readers are still being written down. */
  readonly starting: boolean;
  /** What went wrong on our side, while it is tried again. */
  readonly trouble: string | null;
}

export async function standingOfLaunch(sql: Sql, id: string): Promise<Standing | null> {
  return first(
    await sql<Standing>`select pause as why, pause_reason as reason, paused_at as since,
        resume_at as "resumeAt", readers_to is not null as starting,
        (select j.error from jobs j where j.kind = 'launch' and j.payload ->> 'launch' = l.id
          and j.state = 'waiting' and j.failures > 0 order by j.id desc limit 1) as trouble
      from launches l where l.id = ${id}`,
  );
}

/** What the log of a launch can be narrowed to. */
export const LOGGED = [...STATES.filter((state) => state !== "rest"), "waiting"] as const;
export interface LogLine {
  readonly id: number;
  readonly email: string;
  readonly state: string;
  /** In the service's words. */
  readonly reply: string | null;
  readonly tries: number;
  /** When it was settled, or is tried again. */
  readonly at: Date | null;
}

/** Lines of a launch's log: of a state where that is given, whose addresses hold what is searched; at most so many from a place. */
export const logOf = (
  sql: Sql,
  launchId: string,
  { state, search }: { state: string | null; search: string },
  from: number,
  most: number,
): Promise<LogLine[]> => sql<LogLine>`
  select id, email, state, reply, tries, coalesce(settled_at, next_try_at) as at from recipients
  where launch_id = ${launchId} and (${state}::text is null or state = ${state})
    and (${search} = '' or position(lower(${search}) in lower(email)) > 0)
  order by settled_at desc nulls last, id offset ${from} limit ${most}`;

/** Some of those of whom nobody knows whether they got it. */
export const unsureReaders = (
  sql: Sql,
  launchId: string,
  limit: number,
): Promise<{ email: string; reply: string | null }[]> => sql`
  select email, reply from recipients where launch_id = ${launchId} and state = 'unsure'
  order by id limit ${limit}`;

/** Those of whom nobody knows; with a time, those who can be asked after by then. */
export const unsureIds = async (
  sql: Sql,
  launchId: string,
  by: Date | null = null,
): Promise<number[]> =>
  (
    await sql<{ id: number }>`
      select id from recipients where launch_id = ${launchId} and state = 'unsure'
        and (${by}::timestamptz is null or next_try_at <= ${by}::timestamptz) order by id`
  ).map(({ id }) => id);

export interface Recipient {
  readonly id: number;
  readonly launchId: string;
  readonly contactId: number | null;
  readonly email: string;
  readonly values: Record<string, Json>;
  readonly bits: string;
  /** Which variant they got. */
  readonly variant: number;
  /** They are not to be counted. */
  readonly uncounted: boolean;
  /** When it was handed over; null while it is not. */
  readonly handedAt: Date | null;
}

export async function getRecipient(sql: Sql, id: number): Promise<Recipient | null> {
  return first(
    await sql<Recipient>`select r.id, r.launch_id as "launchId", r.contact_id as "contactId", r.email,
      coalesce(r.values, '{}'::jsonb) as values, r.bits, r.variant, r.settled_at as "handedAt",
      coalesce(c.uncounted, false) as uncounted
      from recipients r left join contacts c on c.id = r.contact_id where r.id = ${id}`,
  );
}

/** A launch in the variant that most of its readers get; null where there is no such launch. */
export const sentToMost = async (
  sql: Sql,
  id: string,
): Promise<{ launchId: string; variant: number } | null> =>
  first(
    await sql`select id as "launchId", coalesce(winner, 0) as variant from launches
      where id = ${id} and state <> 'cancelled'`,
  ) as never;

/** What a launch froze, and whether the email is the same still. */
export const frozenState = async (
  sql: Sql,
  launchId: string,
  documentId: string,
): Promise<{
  seq: number | null;
  audience: unknown;
  topic: string | null;
  same: boolean;
} | null> =>
  first(
    await sql`select l.document_seq as seq, l.audience, l.topic_id as topic, l.document = d.body as same
      from launches l, documents d where l.id = ${launchId} and d.id = ${documentId}`,
  ) as never;

/** The items that readers of a launch had of their own, by `itemRef`, with how many had each. */
export const ownItemsSent = async (sql: Sql, id: string): Promise<ReadonlyMap<string, number>> =>
  new Map(
    (
      await sql<{ ref: string; readers: number }>`
        select e.ref, count(distinct r.id)::int as readers
        from recipients r, jsonb_each(r.values) v, jsonb_array_elements_text(v.value) e(ref)
        where r.launch_id = ${id} and r.state = 'accepted' and starts_with(v.key, 'live:')
          and jsonb_typeof(v.value) = 'array'
        group by e.ref`
    ).map(({ ref, readers }) => [ref, readers]),
  );
