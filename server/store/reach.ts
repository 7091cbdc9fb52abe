/** How many people a rule reaches, who they are, and who is just beside. */

import { LIMITS } from "#core/limits.ts";
import {
  constantSql,
  fragment,
  identifier,
  isGroup,
  joinSql,
  missesSql,
  type Rule,
  ruleSql,
  type Sql as SqlPiece,
  type World,
} from "#core/rules/index.ts";
import type { Sql } from "../db/database.ts";
import { type Contact, contactColumns } from "./contacts.ts";
import { overContacts, summed, summedLists } from "./spans.ts";

/** Keeps the columns of an inner question from being put in wherever they are named outside: each rule is asked once. */
const APART = constantSql("offset 0");

export interface Reach {
  /** Those who can be mailed, and all, held back or not. */
  readonly mailable: number;
  readonly all: number;
  /** Everybody there is who can be mailed. */
  readonly of: number;
}

/** Counts a rule; `among` (a condition on a contact `c`) bounds who counts at all. */
export async function countReach(
  sql: Sql,
  rule: Rule,
  world: World,
  among: SqlPiece = constantSql("true"),
): Promise<Reach> {
  const counts = await overContacts(
    sql,
    (within, span) => sql<Reach>`
      select count(*) filter (where held is null and holds)::int as mailable,
        count(*) filter (where holds)::int as all,
        count(*) filter (where held is null)::int as of
      from (select c.held, ${ruleSql(rule, { ...world, span })} as holds
        from contacts c where ${within} and ${among} ${APART}) f`,
  );
  return summed(counts);
}

/** How many people each of several rules catches: those who can be mailed, and all; a few in one pass. */
export async function countRules(
  sql: Sql,
  rules: readonly Rule[],
  world: World,
): Promise<{ mailable: number; all: number }[]> {
  if (rules.length > LIMITS.rulesAtOnce) {
    const first = await countRules(sql, rules.slice(0, LIMITS.rulesAtOnce), world);
    return [...first, ...(await countRules(sql, rules.slice(LIMITS.rulesAtOnce), world))];
  }
  if (rules.length === 0) return [];
  const names = rules.map((_, i) => identifier(`r${i}`));
  const columns = joinSql(
    names.flatMap((holds) => [
      fragment`count(*) filter (where held is null and ${holds})::int`,
      fragment`count(*) filter (where ${holds})::int`,
    ]),
    ", ",
  );
  const rows = await overContacts(sql, (within, span) => {
    const here = { ...world, span };
    const each = rules.map((rule, i) => fragment`${ruleSql(rule, here)} as ${names[i]!}`);
    return sql<{ counts: number[] }>`select array[${columns}] as counts
      from (select c.held, ${joinSql(each, ", ")} from contacts c where ${within} ${APART}) f`;
  });
  const counts = summedLists(rows.map((row) => row.counts));
  return rules.map((_, i) => ({ mailable: counts[2 * i]!, all: counts[2 * i + 1]! }));
}

/** A few people a rule catches. */
export const caughtBy = (sql: Sql, rule: Rule, world: World, limit: number): Promise<Contact[]> =>
  sql<Contact>`select ${contactColumns(world.fields)} from contacts c
    where ${ruleSql(rule, world)} order by c.held is not null, c.id limit ${limit}`;

export interface NearMiss extends Contact {
  /** By how many conditions they miss it. */
  readonly misses: number;
  /** Which of the rule's own parts do not hold, by their place in it. */
  readonly parts: readonly number[];
}

/** The people who miss a rule by the fewest conditions. */
export async function missedBy(
  sql: Sql,
  rule: Rule,
  world: World,
  limit: number,
): Promise<NearMiss[]> {
  const parts = isGroup(rule) ? rule.rules : [rule];
  const wanted = isGroup(rule) && rule.type === "none";
  const wrong = parts.map(
    (part) => fragment`coalesce(${ruleSql(part, world)}, false) = ${wanted}::boolean`,
  );
  const list = wrong.length ? fragment`array[${joinSql(wrong, ", ")}]` : fragment`'{}'::boolean[]`;
  const rows = await sql<Omit<NearMiss, "parts"> & { wrong: boolean[] }>`
    with near as (
      select c.id, m.misses from contacts c
      cross join lateral (select ${missesSql(rule, world)} as misses) m
      where m.misses > 0 order by m.misses, c.id limit ${limit}
    )
    select ${contactColumns(world.fields)}, near.misses, ${list} as wrong
    from near join contacts c on c.id = near.id order by near.misses, c.id`;
  return rows.map(({ wrong: flags, ...contact }) => ({
    ...contact,
    parts: flags.flatMap((flag, i) => (flag ? [i] : [])),
  }));
}

export interface Overlap {
  /** Of those who can be mailed: how many are caught by both rules, `shared[i][j]`. */
  readonly shared: readonly (readonly number[])[];
  /** How many each rule catches, those held back counted too. */
  readonly all: readonly number[];
}

/**
 * How many people each two of several rules share. One pass finds
 * which rules each person is caught by; people with the same ones are counted together.
 */
export async function overlapOf(sql: Sql, rules: readonly Rule[], world: World): Promise<Overlap> {
  const shared = rules.map(() => rules.map(() => 0));
  const all = rules.map(() => 0);
  if (rules.length === 0) return { shared, all };
  const groups = await overContacts(sql, (within, span) => {
    const here = { ...world, span };
    const flags = rules.map((rule) => fragment`coalesce(${ruleSql(rule, here)}, false)`);
    return sql<{ flags: boolean[]; mailable: number; all: number }>`
      select array[${joinSql(flags, ", ")}] as flags,
        count(*) filter (where c.held is null)::int as mailable, count(*)::int as all
      from contacts c where ${within} group by 1`;
  });
  for (const group of groups) {
    for (const i of rules.keys()) {
      if (!group.flags[i]) continue;
      all[i]! += group.all;
      for (const j of rules.keys()) if (group.flags[j]) shared[i]![j]! += group.mailable;
    }
  }
  return { shared, all };
}
