/** Lists, segments, and the people they make an audience of. */
import { z } from "zod";
import {
  constantSql,
  fragment,
  joinSql,
  KEPT_SEGMENTS,
  listsNamed,
  type Rule,
  ruleSchema,
  ruleSql,
  type Sql as SqlPiece,
  segmentsNamed,
  type World,
} from "#core/rules/index.ts";
import type { Sql } from "../db/database.ts";
import { newId } from "../ids.ts";
import { overContacts, summed, summedLists } from "./spans.ts";

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

const sourceSchema = z.object({ kind: z.enum(["list", "segment"]), id: z.string().min(1).max(40) });
export type Source = z.infer<typeof sourceSchema>;
export const audienceSchema = z.object({
  include: z.array(sourceSchema).max(50),
  exclude: z.array(sourceSchema).max(50),
});
export type Audience = z.infer<typeof audienceSchema>;
export const segmentsSchema = z.array(
  z.object({ id: z.string(), name: z.string(), rule: ruleSchema }),
);
/** The segments an audience (and other rules) names, with those that they name in turn. */
export function segmentsOf(
  audience: Audience,
  segments: readonly Segment[],
  rules: readonly Rule[] = [],
): Segment[] {
  const all = new Map([...KEPT_SEGMENTS, ...segments].map((segment) => [segment.id, segment]));
  const found = new Map<string, Segment>();
  const visit = (id: string) => {
    const segment = all.get(id);
    if (!segment || found.has(id)) return;
    found.set(id, segment);
    for (const named of segmentsNamed(segment.rule)) visit(named);
  };
  for (const { kind, id } of [...audience.include, ...audience.exclude]) {
    if (kind === "segment") visit(id);
  }
  for (const rule of rules) segmentsNamed(rule).forEach(visit);
  return [...found.values()];
}
export const NOBODY: Audience = { include: [], exclude: [] };

export const getLists = (sql: Sql): Promise<List[]> => sql<List>`
  select l.id, l.name, count(m.contact_id)::int as people
  from lists l left join list_members m on m.list_id = l.id
  group by l.id order by l.name`;

/** The lists a person is on. */
export const listsOf = (sql: Sql, contact: number): Promise<{ id: string; name: string }[]> => sql`
  select l.id, l.name from list_members m join lists l on l.id = m.list_id
  where m.contact_id = ${contact} order by l.name`;

export async function getSegments(sql: Sql): Promise<Segment[]> {
  const rows = await sql<Segment>`select id, name, rule from segments order by name`;
  return rows.map((row) => ({ ...row, rule: ruleSchema.parse(row.rule) }));
}

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

const sourceSql = (source: Source, world: World): SqlPiece =>
  ruleSql(
    source.kind === "list"
      ? { type: "list", list: source.id, is: true }
      : { type: "segment", segment: source.id, is: true },
    world,
  );

export async function getSegment(sql: Sql, id: string): Promise<Segment | null> {
  return (await getSegments(sql)).find((segment) => segment.id === id) ?? null;
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
  const segments = (await getSegments(sql)).filter(({ id, rule }) =>
    source.kind === "segment"
      ? id !== source.id && segmentsNamed(rule).includes(source.id)
      : listsNamed(rule).includes(source.id),
  );
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
  /** People who can be mailed, but have left the campaign's topic. */
  readonly left: number;
}

/** Whether a contact named `c` has said no to a topic. */
export const leftTopicSql = (topic: string | null): SqlPiece =>
  topic === null
    ? constantSql("false")
    : fragment`c.id in (select t.contact_id from topic_choices t
        where t.topic_id = ${topic}::text and not t.wants)`;

/**
 * Those a campaign goes to and who can be mailed, as a condition on a contact `c`; where nobody is chosen yet,
 * everybody who can be mailed.
 */
export const readersSql = (
  { audience, topic }: { audience: Audience; topic: string | null },
  world: World,
): SqlPiece =>
  audience.include.length > 0
    ? fragment`(${audienceSql(audience, world)} and c.held is null and not ${leftTopicSql(topic)})`
    : constantSql("c.held is null");

export async function countAudience(
  sql: Sql,
  audience: Audience,
  world: World,
  topic: string | null,
): Promise<AudienceCount> {
  const left = leftTopicSql(topic);
  const counts = await overContacts(
    sql,
    (within) => sql<AudienceCount>`
      select count(*) filter (where c.held is null and not ${left})::int as readers,
        count(*) filter (where c.held is null and ${left})::int as left,
        count(*) filter (where c.held = 'unsubscribed')::int as unsubscribed,
        count(*) filter (where c.held = 'bounced')::int as bounced,
        count(*) filter (where c.held = 'blocked')::int as blocked
      from contacts c where ${within} and ${audienceSql(audience, world)}`,
  );
  return summed(counts);
}

/** Of each list and segment: how many people who can be mailed it holds. */
export async function countSources(
  sql: Sql,
  sources: readonly Source[],
  world: World,
): Promise<number[]> {
  if (sources.length === 0) return [];
  const columns = joinSql(
    sources.map((s) => fragment`count(*) filter (where ${sourceSql(s, world)})::int`),
    ", ",
  );
  const rows = await overContacts(
    sql,
    (within) => sql<{ counts: number[] }>`
      select array[${columns}] as counts from contacts c where ${within} and c.held is null`,
  );
  return summedLists(rows.map(({ counts }) => counts));
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
  const known = new Set([
    ...(await getLists(sql)).map((list) => `list:${list.id}`),
    ...[...KEPT_SEGMENTS, ...(await getSegments(sql))].map(({ id }) => `segment:${id}`),
  ]);
  const all = [...audience.include, ...audience.exclude];
  return all.every(({ kind, id }) => known.has(`${kind}:${id}`))
    ? null
    : "One of these lists or segments is gone.";
}
