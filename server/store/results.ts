/** What came of a launch: events in, measures out. */
import { LIMITS } from "#core/limits.ts";
import type { Measure } from "#core/splits/index.ts";
import { type Line, wordsOf } from "#core/text/index.ts";
import type { EarlierSubject } from "#core/writing/helper.ts";
import { first, type Sql } from "../db/database.ts";

export interface Measures {
  readonly readers: number;
  readonly accepted: number;
  readonly bounced: number;
  /** People, each counted once. A click counts as an open too. */
  readonly opened: number;
  readonly clicked: number;
  readonly unsubscribed: number;
  /** People who have called it spam. */
  readonly complained: number;
  /** People who have bought something after they had clicked. */
  readonly ordered: number;
}

/** Of several launches at once, by their ids. */
export async function measuresOfAll(
  sql: Sql,
  launchIds: readonly string[],
): Promise<ReadonlyMap<string, Measures>> {
  const rows = await sql<Measures & { id: string }>`
    select l.id, coalesce(l.readers, (select count(*)::int from recipients r
        where r.launch_id = l.id and r.state not in ('held', 'control'))) as readers,
      coalesce(t.accepted, 0) as accepted, coalesce(t.bounced, 0) as bounced,
      coalesce(t.opened, 0) as opened, coalesce(t.clicked, 0) as clicked,
      coalesce(t.unsubscribed, 0) as unsubscribed, coalesce(t.complained, 0) as complained,
      coalesce(t.ordered, 0) as ordered
    from launches l left join launch_totals t on t.launch_id = l.id
    where l.id = any (${[...launchIds]}::text[])`;
  return new Map(rows.map(({ id, ...measures }) => [id, measures]));
}

export async function measuresOf(sql: Sql, launchId: string): Promise<Measures> {
  return (await measuresOfAll(sql, [launchId])).get(launchId)!;
}

/** The shares (0–1) that are usual: of the latest launches together. Null where nothing has been sent. */
export async function usualShares(sql: Sql): Promise<Record<Measure, number> | null> {
  const { n, ...shares } = first(
    await sql<Record<Measure, number> & { n: number }>`
      select coalesce(sum(t.accepted), 0)::int as n, sum(t.opened)::float8 / nullif(sum(t.accepted), 0) as opened,
        sum(t.clicked)::float8 / nullif(sum(t.accepted), 0) as clicked,
        sum(t.ordered)::float8 / nullif(sum(t.accepted), 0) as ordered
      from (select id from launches where state = 'done' order by finished_at desc limit ${LIMITS.ratedLaunches}) l
      join launch_totals t on t.launch_id = l.id`,
  )!;
  return n === 0 ? null : shares;
}

export interface LinkClicks {
  readonly link: number;
  readonly clicks: number;
  readonly people: number;
}

/** Clicks of people in the links of a variant's email: the numbers of links are each email's own. */
export const clicksByLink = (
  sql: Sql,
  launchId: string,
  variants: readonly number[] = [0],
): Promise<LinkClicks[]> => sql<LinkClicks>`
  select e.link, count(*)::int as clicks, count(distinct e.recipient_id)::int as people
  from events e left join recipients r on r.id = e.recipient_id
  where e.launch_id = ${launchId} and e.kind = 'clicked' and e.link is not null and not e.machine
    and coalesce(r.variant, 0) = any (${[...variants]}::int[])
  group by e.link order by people desc, e.link`;

/** What machines did with a launch's messages: opens and clicks, and of how many messages. */
export const machinesIn = async (
  sql: Sql,
  launchId: string,
): Promise<{ opens: number; clicks: number; messages: number }> =>
  first(
    await sql<{ opens: number; clicks: number; messages: number }>`
      select count(*) filter (where kind = 'opened')::int as opens,
        count(*) filter (where kind = 'clicked')::int as clicks, count(distinct recipient_id)::int as messages
      from events where launch_id = ${launchId} and kind in ('opened', 'clicked') and machine`,
  )!;

/** Opens and clicks by the hour since the start. */
export const byHour = (
  sql: Sql,
  launchId: string,
  hours: number,
): Promise<{ hour: number; opened: number; clicked: number }[]> => sql`
  select floor(extract(epoch from e.at - l.started_at) / 3600)::int as hour,
    count(*) filter (where e.kind = 'opened')::int as opened,
    count(*) filter (where e.kind = 'clicked')::int as clicked
  from events e join launches l on l.id = e.launch_id
  where e.launch_id = ${launchId} and e.kind in ('opened', 'clicked') and not e.machine
    and e.at < l.started_at + make_interval(hours => ${hours}::int)
  group by 1 order by 1`;

/** The words of a subject as a launch keeps it. */
const subjectIn = (kept: string): string => wordsOf(JSON.parse(kept) as Line);

/** The subject of the email that went out last, but for those of a campaign; tags as their fallbacks. */
export async function lastSubject(sql: Sql, except: string | null): Promise<string | null> {
  const row = first(
    await sql<{ subject: string | null }>`select subject from launches
      where state = 'done' and campaign_id <> ${except ?? ""} order by started_at desc limit 1`,
  );
  return row?.subject ? subjectIn(row.subject) : null;
}

/** Subjects that went out, the latest first, with how they were opened; tags as their fallbacks. */
export async function earlierSubjects(sql: Sql, except: string): Promise<EarlierSubject[]> {
  const rows = await sql<{ subject: string; readers: number; opened: number }>`
    select l.subject, t.accepted as readers, t.opened
    from launches l join launch_totals t on t.launch_id = l.id
    where l.state = 'done' and l.campaign_id <> ${except} and l.subject is not null and t.accepted > 0
    order by l.started_at desc
    limit ${LIMITS.earlierSubjects}`;
  return rows.map(({ subject, readers, opened }) => ({
    subject: subjectIn(subject),
    readers,
    opened: opened / readers,
  }));
}
