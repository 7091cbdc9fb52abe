/** Lists, segments, and the people they make an audience of. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import {
  type Condition,
  conditionsIn,
  constantSql,
  fragment,
  identifier,
  joinSql,
  KEPT_SEGMENTS,
  type Rule,
  ruleSchema,
  ruleSql,
  type Sql as SqlPiece,
  segmentsNamed,
  type World,
} from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { newId } from "../ids.ts";
import { countRules } from "./reach.ts";
import { wordsFit } from "./search.ts";
import { overContacts, summed } from "./spans.ts";

export interface List {
  readonly id: string;
  readonly name: string;
  readonly people: number;
}
export interface Segment {
  readonly id: string;
  readonly name: string;
  readonly rule: Rule;
}

export const sourceSchema = z.object({
  kind: z.enum(["list", "segment"]),
  id: z.string().min(1).max(40),
});
export type Source = z.infer<typeof sourceSchema>;
export const audienceSchema = z.object({
  include: z.array(sourceSchema).max(50, "At most 50 lists and segments get it."),
  exclude: z.array(sourceSchema).max(50, "At most 50 lists and segments are left out."),
});
export type Audience = z.infer<typeof audienceSchema>;
export const segmentsSchema = z.array(
  z.object({ id: z.string(), name: z.string(), rule: ruleSchema }),
);
export const NOBODY: Audience = { include: [], exclude: [] };

/** The lists a person is on. */
export const listsOf = (sql: Sql, contact: number): Promise<{ id: string; name: string }[]> => sql`
  select l.id, l.name from list_members m join lists l on l.id = m.list_id
  where m.contact_id = ${contact} order by l.name`;

const segment = (row: Segment): Segment => ({ ...row, rule: ruleSchema.parse(row.rule) });

/**
 * Segments whose rule holds on to something, by name: `names` says so of each condition. `word` stands in the text of
 * every such rule, so that all others are not even read.
 */
export const segmentsNaming = async (
  sql: Sql,
  word: string,
  names: (condition: Condition) => boolean,
): Promise<Segment[]> =>
  (
    await sql<Segment>`select id, name, rule from segments
      where position(${word} in rule::text) > 0 order by name`
  )
    .map(segment)
    .filter(({ rule }) => conditionsIn(rule).some(names));

/** Some of them, in no order; those that are gone are left out. */
export const getSegmentsOf = async (sql: Sql, ids: readonly string[]): Promise<Segment[]> =>
  (
    await sql<Segment>`select id, name, rule from segments where id = any (${[...ids]}::text[])`
  ).map(segment);

const KEPT: ReadonlyMap<string, Segment> = new Map(KEPT_SEGMENTS.map((one) => [one.id, one]));

/** The segments some rules name, with those that they name in turn; those that are gone are left out. */
export async function segmentsBehind(sql: Sql, rules: readonly Rule[]): Promise<Segment[]> {
  const found: Segment[] = [];
  const asked = new Set<string>();
  let wanted = rules.flatMap(segmentsNamed);
  for (;;) {
    const missing = [...new Set(wanted)].filter((id) => !asked.has(id));
    if (missing.length === 0) return found;
    for (const id of missing) asked.add(id);
    const stored = missing.filter((id) => !KEPT.has(id));
    const next = [
      ...missing.flatMap((id) => KEPT.get(id) ?? []),
      ...(stored.length > 0 ? await getSegmentsOf(sql, stored) : []),
    ];
    found.push(...next);
    wanted = next.flatMap(({ rule }) => segmentsNamed(rule));
  }
}

/** What a page of lists or segments shows of them. */
export interface PageOf {
  readonly search: string;
  readonly from: number;
  readonly limit: number;
}

export async function searchSegments(sql: Sql, { search, from, limit }: PageOf) {
  const fits = wordsFit(identifier("name"), search);
  const rows = await sql<Segment>`select id, name, rule from segments where ${fits}
    order by name, id offset ${from} limit ${limit}`;
  return rows.map(segment);
}
export const countSegments = async (sql: Sql, search = ""): Promise<number> =>
  first(
    await sql<{ n: number }>`select count(*)::int as n from segments
      where ${wordsFit(identifier("name"), search)}`,
  )!.n;

const EVERY: PageOf = { search: "", from: 0, limit: LIMITS.lists };
export const getLists = (
  sql: Sql,
  { search, from, limit }: PageOf = EVERY,
): Promise<List[]> => sql<List>`
  select l.id, l.name, (select count(*)::int from list_members m where m.list_id = l.id) as people
  from (select id, name from lists where ${wordsFit(identifier("name"), search)}
    order by name, id offset ${from} limit ${limit}) l
  order by l.name, l.id`;
export const countLists = async (sql: Sql, search = ""): Promise<number> =>
  first(
    await sql<{ n: number }>`select count(*)::int as n from lists
      where ${wordsFit(identifier("name"), search)}`,
  )!.n;

/** A list or a segment as a rule: who is on it, or in it. */
export const ruleOfSource = ({ kind, id }: Source): Rule =>
  kind === "list"
    ? { type: "list", list: id, is: true }
    : { type: "segment", segment: id, is: true };

/** The rules that say who an audience is, for the world they are read in. */
export const rulesOfAudience = ({ include, exclude }: Audience): Rule[] =>
  [...include, ...exclude].map(ruleOfSource);

export async function addList(
  sql: Sql,
  name: string,
  contacts: readonly number[],
  now: Date,
): Promise<string> {
  const id = newId();
  await sql`insert into lists (id, name, created_at) values (${id}, ${name}, ${now})`;
  await sql`insert into list_members (list_id, contact_id)
    select ${id}, value::bigint from jsonb_array_elements_text(${JSON.stringify(contacts)}::jsonb)`;
  return id;
}

export async function addSegment(sql: Sql, name: string, rule: Rule, now: Date): Promise<string> {
  const id = newId();
  await sql`insert into segments (id, name, rule, created_at)
    values (${id}, ${name}, ${JSON.stringify(rule)}::jsonb, ${now})`;
  return id;
}

/** The segment of a rule, or null where there is none. */
export const segmentWith = async (sql: Sql, rule: Rule): Promise<string | null> =>
  first(
    await sql<{ id: string }>`select id from segments where rule = ${JSON.stringify(rule)}::jsonb
      order by created_at limit 1`,
  )?.id ?? null;

const sourceSql = (source: Source, world: World): SqlPiece => ruleSql(ruleOfSource(source), world);

export async function getSegment(sql: Sql, id: string): Promise<Segment | null> {
  return first(await getSegmentsOf(sql, [id]));
}

export async function changeSegment(sql: Sql, id: string, name: string, rule: Rule): Promise<void> {
  await sql`update segments set name = ${name}, rule = ${JSON.stringify(rule)}::jsonb where id = ${id}`;
}

/** What names a list or a segment: campaigns that are not sent yet, and other segments. */
export async function usesOf(sql: Sql, source: Source): Promise<string[]> {
  const wanted = JSON.stringify([source]);
  const campaigns = await sql<{ name: string }>`
    select k.name from campaigns k
    where k.deleted_at is null and (k.audience -> 'include' @> ${wanted}::jsonb or k.audience -> 'exclude' @> ${wanted}::jsonb)
      and not exists (select 1 from launches l where l.campaign_id = k.id and l.state = 'done')
    order by k.name`;
  const naming = await segmentsNaming(sql, source.id, (one) =>
    source.kind === "segment"
      ? one.type === "segment" && one.segment === source.id
      : one.type === "list" && one.list === source.id,
  );
  const segments = naming.filter(({ id }) => id !== source.id);
  return [...campaigns, ...segments].map(({ name }) => `“${name}”`);
}

export async function renameList(sql: Sql, id: string, name: string): Promise<void> {
  await sql`update lists set name = ${name} where id = ${id}`;
}

/** Puts people on a list; those on it already stay. Gives how many are new. */
export async function addToList(
  sql: Sql,
  id: string,
  contacts: readonly number[],
): Promise<number> {
  const added = await sql`insert into list_members (list_id, contact_id)
    select ${id}, c.id from contacts c where c.id = any (${[...contacts]}::bigint[])
    on conflict do nothing returning 1`;
  return added.length;
}

export async function takeOffList(
  sql: Sql,
  id: string,
  contacts: readonly number[],
): Promise<void> {
  await sql`delete from list_members
    where list_id = ${id} and contact_id = any (${[...contacts]}::bigint[])`;
}

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
          and (x.state in ('waiting', 'claimed', 'handed', 'deferred', 'unsure')
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

/** What is wrong with an audience, or null: each of its lists and segments must be there. */
export async function audienceProblem(sql: Sql, audience: Audience): Promise<string | null> {
  const all = [...audience.include, ...audience.exclude];
  const idsOf = (of: Source["kind"]) => all.flatMap(({ kind, id }) => (kind === of ? [id] : []));
  const rows = await sql<{ key: string }>`
    select 'list:' || id as key from lists where id = any (${idsOf("list")}::text[])
    union all select 'segment:' || id from segments where id = any (${idsOf("segment")}::text[])`;
  const known = new Set([
    ...rows.map(({ key }) => key),
    ...KEPT_SEGMENTS.map(({ id }) => `segment:${id}`),
  ]);
  return all.every(({ kind, id }) => known.has(`${kind}:${id}`))
    ? null
    : "One of these lists or segments is gone.";
}
