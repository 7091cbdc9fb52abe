/** Lists, segments, and the people they make an audience of. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import {
  type Condition,
  conditionsIn,
  identifier,
  KEPT_SEGMENTS,
  type Rule,
  ruleSchema,
  segmentsNamed,
} from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import { newId } from "../ids.ts";
import { wordsFit } from "./search.ts";
import { UNSENT } from "./unsent.ts";

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
    select ${id}, value::bigint from jsonb_array_elements_text(${jsonb(contacts)})`;
  return id;
}

export async function addSegment(sql: Sql, name: string, rule: Rule, now: Date): Promise<string> {
  const id = newId();
  await sql`insert into segments (id, name, rule, created_at)
    values (${id}, ${name}, ${jsonb(rule)}, ${now})`;
  return id;
}

/** The segment of a rule, or null where there is none. */
export const segmentWith = async (sql: Sql, rule: Rule): Promise<string | null> =>
  first(
    await sql<{ id: string }>`select id from segments where rule = ${jsonb(rule)}
      order by created_at limit 1`,
  )?.id ?? null;

export async function getSegment(sql: Sql, id: string): Promise<Segment | null> {
  return first(await getSegmentsOf(sql, [id]));
}

export async function changeSegment(sql: Sql, id: string, name: string, rule: Rule): Promise<void> {
  await sql`update segments set name = ${name}, rule = ${jsonb(rule)} where id = ${id}`;
}

/** What names a list or a segment: campaigns that are not sent yet, and other segments. */
export async function usesOf(sql: Sql, source: Source): Promise<string[]> {
  const wanted = jsonb([source]);
  const campaigns = await sql<{ name: string }>`
    select k.name from campaigns k
    where ${UNSENT}
      and (k.audience -> 'include' @> ${wanted} or k.audience -> 'exclude' @> ${wanted})
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
