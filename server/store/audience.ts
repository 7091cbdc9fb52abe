/** Lists, segments, and the people they make an audience of. */
import { z } from "zod";
import {
  constantSql,
  type Fields,
  fragment,
  joinSql,
  type Now,
  type Rule,
  ruleSchema,
  ruleSql,
  type Sql as SqlPiece,
} from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { newId } from "../ids.ts";

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
/** The segments an audience names. */
export const segmentsOf = (audience: Audience, segments: readonly Segment[]): Segment[] => {
  const named = [...audience.include, ...audience.exclude].filter((s) => s.kind === "segment");
  return segments.filter((segment) => named.some(({ id }) => id === segment.id));
};
export const NOBODY: Audience = { include: [], exclude: [] };

export const getLists = (sql: Sql): Promise<List[]> => sql<List>`
  select l.id, l.name, count(m.contact_id)::int as people
  from lists l left join list_members m on m.list_id = l.id
  group by l.id order by l.name`;

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

/** What counting people needs to know. */
export interface People {
  readonly fields: Fields;
  readonly segments: readonly Segment[];
  readonly now: Now;
}

function sourceSql(source: Source, people: People): SqlPiece {
  if (source.kind === "list") {
    return fragment`exists (select 1 from list_members m where m.list_id = ${source.id} and m.contact_id = c.id)`;
  }
  const segment = people.segments.find((s) => s.id === source.id);
  return segment ? ruleSql(segment.rule, people.fields, people.now) : constantSql("false");
}

/** The audience as a condition on the contacts table, named `c`; those held back are still in it. */
export function audienceSql(audience: Audience, people: People): SqlPiece {
  const any = (sources: readonly Source[]) =>
    sources.length
      ? fragment`(${joinSql(
          sources.map((source) => sourceSql(source, people)),
          " or ",
        )})`
      : constantSql("false");
  return fragment`(${any(audience.include)} and not ${any(audience.exclude)})`;
}

export interface AudienceCount {
  /** People who will get it. */
  readonly readers: number;
  readonly unsubscribed: number;
  readonly bounced: number;
}

export async function countAudience(
  sql: Sql,
  audience: Audience,
  people: People,
): Promise<AudienceCount> {
  return first(
    await sql<AudienceCount>`
      select count(*) filter (where s.reason is null)::int as readers,
        count(*) filter (where s.reason = 'unsubscribed')::int as unsubscribed,
        count(*) filter (where s.reason = 'bounced')::int as bounced
      from contacts c left join suppressions s on s.email_folded = c.email_folded
      where ${audienceSql(audience, people)}`,
  )!;
}

/** Of each list and segment: how many people who can be mailed it holds. */
export async function countSources(
  sql: Sql,
  sources: readonly Source[],
  people: People,
): Promise<number[]> {
  if (sources.length === 0) return [];
  const columns = joinSql(
    sources.map((s) => fragment`count(*) filter (where ${sourceSql(s, people)})::int`),
    ", ",
  );
  const row = first(
    await sql<{ counts: number[] }>`
      select array[${columns}] as counts from contacts c
      left join suppressions s on s.email_folded = c.email_folded where s.reason is null`,
  );
  return row!.counts;
}

/** How many people can be mailed at all. */
export async function countMailable(sql: Sql): Promise<number> {
  return first(
    await sql<{ n: number }>`select count(*)::int as n from contacts c
      where not exists (select 1 from suppressions s where s.email_folded = c.email_folded)`,
  )!.n;
}

/** What is wrong with an audience, or null: each of its lists and segments must be there. */
export async function audienceProblem(sql: Sql, audience: Audience): Promise<string | null> {
  const known = new Set([
    ...(await getLists(sql)).map((list) => `list:${list.id}`),
    ...(await getSegments(sql)).map((segment) => `segment:${segment.id}`),
  ]);
  const all = [...audience.include, ...audience.exclude];
  return all.every(({ kind, id }) => known.has(`${kind}:${id}`))
    ? null
    : "One of these lists or segments is gone.";
}
