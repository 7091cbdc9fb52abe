/** Whom an audience reaches: as conditions on contacts, and counted. */
import {
  constantSql,
  fragment,
  joinSql,
  ruleSql,
  type Sql as SqlPiece,
  type World,
} from "#core/rules/index.ts";
import type { Sql } from "../db/database.ts";
import { type Audience, ruleOfSource, type Source } from "./audience.ts";
import { countRules } from "./reach.ts";
import { overContacts, summed } from "./spans.ts";

const sourceSql = (source: Source, world: World): SqlPiece => ruleSql(ruleOfSource(source), world);

/** The audience as a condition on the contacts table, named `c`; those held back are still in it. */
export function audienceSql(audience: Audience, world: World): SqlPiece {
  const any = (sources: readonly Source[]) =>
    sources.length
      ? fragment`(${joinSql(
          sources.map((source) => sourceSql(source, world)),
          " or ",
        )})`
      : constantSql("false");
  return fragment`(${any(audience.include)} and not coalesce(${any(audience.exclude)}, false))`;
}

export interface AudienceCount {
  /** People who will get it. */
  readonly readers: number;
  readonly unsubscribed: number;
  readonly bounced: number;
  readonly blocked: number;
  readonly complained: number;
  /** People who can be mailed, but have left the campaign's topic. */
  readonly left: number;
  /** People who have got as many emails lately as anybody is to get. */
  readonly enough: number;
}

/** Whether a contact named `c` has said no to a topic. */
export const leftTopicSql = (topic: string | null): SqlPiece =>
  topic === null
    ? constantSql("false")
    : fragment`c.id in (select t.contact_id from topic_choices t
        where t.topic_id = ${topic}::text and not t.wants)`;

/** Whether a contact named `c` has got, or is getting, as many emails as there may be, those of a campaign left out. */
export const enoughSql = ({ cap }: Pick<World, "cap">, campaign: string | null): SqlPiece =>
  cap
    ? fragment`(select count(*) from recipients x join launches xl on xl.id = x.launch_id
        where x.contact_id = c.id and xl.campaign_id is distinct from ${campaign}::text
          and (x.state in ('rest', 'waiting', 'claimed', 'handed', 'deferred', 'unsure')
            or (x.state = 'accepted' and x.settled_at >= ${cap.since}))) >= ${cap.most}`
    : constantSql("false");

/**
 * Those a campaign goes to and who can be mailed, as a condition on a contact `c`; where nobody is chosen yet,
 * everybody who can be mailed.
 */
export const readersSql = (
  { id = null, audience, topic }: { id?: string | null; audience: Audience; topic: string | null },
  world: World,
): SqlPiece =>
  audience.include.length > 0
    ? fragment`(${audienceSql(audience, world)} and c.held is null and not ${leftTopicSql(topic)}
        and not ${enoughSql(world, id)})`
    : constantSql("c.held is null");

export async function countAudience(
  sql: Sql,
  audience: Audience,
  world: World,
  topic: string | null,
  /** Its own emails do not count against it. */
  campaign: string | null = null,
): Promise<AudienceCount> {
  const left = leftTopicSql(topic);
  const enough = enoughSql(world, campaign);
  const counts = await overContacts(
    sql,
    (within) => sql<AudienceCount>`
      select count(*) filter (where c.held is null and not ${left} and not ${enough})::int as readers,
        count(*) filter (where c.held is null and not ${left} and ${enough})::int as enough,
        count(*) filter (where c.held is null and ${left})::int as left,
        count(*) filter (where c.held = 'unsubscribed')::int as unsubscribed,
        count(*) filter (where c.held = 'bounced')::int as bounced,
        count(*) filter (where c.held = 'blocked')::int as blocked,
        count(*) filter (where c.held = 'complained')::int as complained
      from contacts c where ${within} and ${audienceSql(audience, world)}`,
  );
  return summed(counts);
}

type Chosen = readonly [{ readonly audience: Audience; readonly topic: string | null }, World];

/** How many people who can be mailed are in a choice and in each of others as well; in one pass over them. */
export async function countBoth(
  sql: Sql,
  one: Chosen,
  others: readonly Chosen[],
): Promise<number[]> {
  const isIn = ([{ audience, topic }, world]: Chosen) =>
    fragment`(${audienceSql(audience, world)} and not ${leftTopicSql(topic)})`;
  const each = others.map((other) => fragment`count(*) filter (where ${isIn(other)})::int`);
  const counts = await overContacts(
    sql,
    (within) => sql<{ n: number[] }>`select array[${joinSql(each, ", ")}] as n from contacts c
      where ${within} and c.held is null and ${isIn(one)}`,
  );
  return others.map((_, i) => counts.reduce((sum, { n }) => sum + n[i]!, 0));
}

/** Of each list and segment: how many people who can be mailed it holds. */
export async function countSources(
  sql: Sql,
  sources: readonly Source[],
  world: World,
): Promise<number[]> {
  const lists = sources.flatMap(({ kind, id }) => (kind === "list" ? [id] : []));
  const segments = sources.filter(({ kind }) => kind === "segment");
  const onLists = await sql<{ id: string; n: number }>`
    select m.list_id as id, count(*)::int as n
    from list_members m join contacts c on c.id = m.contact_id and c.held is null
    where m.list_id = any (${lists}::text[]) group by m.list_id`;
  const inSegments = await countRules(sql, segments.map(ruleOfSource), world);
  const found = new Map([
    ...onLists.map(({ id, n }) => [`list:${id}`, n] as const),
    ...segments.map(({ id }, i) => [`segment:${id}`, inSegments[i]!.mailable] as const),
  ]);
  return sources.map(({ kind, id }) => found.get(`${kind}:${id}`) ?? 0);
}

/** How many people can be mailed at all. */
export async function countMailable(sql: Sql): Promise<number> {
  const counts = await overContacts(
    sql,
    (within) => sql<{ n: number }>`
      select count(*)::int as n from contacts c where ${within} and c.held is null`,
  );
  return summed(counts).n;
}
