/** For whom the conditions of an email hold: all of them found in one pass. */
import { parseJson } from "#core/json.ts";
import {
  constantSql,
  fragment,
  identifier,
  integerSql,
  joinSql,
  type Rule,
  ruleSchema,
  ruleSql,
  type Sql as SqlPiece,
  type World,
} from "#core/rules/index.ts";
import type { Group } from "#core/versions/index.ts";
import type { Sql } from "../db/database.ts";
import { joined, overContacts } from "./spans.ts";
import { tagValueSql } from "./tag-values.ts";

/** The rules behind conditions; one that makes no sense (any more) is null and holds for nobody. */
export const rulesOf = (conditions: readonly string[]): (Rule | null)[] =>
  conditions.map((key) => ruleSchema.safeParse(parseJson(key)).data ?? null);

const holdsSql = (rule: Rule | null, world: World): SqlPiece =>
  rule ? ruleSql(rule, world) : constantSql("false");

/** The bits of a contact named `c`, as text. */
export function bitsSql(conditions: readonly string[], world: World): SqlPiece {
  if (conditions.length === 0) return constantSql("''");
  const bits = rulesOf(conditions).map(
    (rule) => fragment`case when ${holdsSql(rule, world)} then '1' else '0' end`,
  );
  return fragment`concat(${joinSql(bits, ", ")})`;
}

/** Conditions per number: as many as fit beside a sign. */
const PER_NUMBER = 30;

/** By what readers are told which language they get. */
export interface Spoken {
  /** The field (a tag's ref). */
  readonly field: string;
  readonly languageOf: (said: string | undefined) => string;
}
/** Languages and their names are shorter. */
const SAID = 40;

/**
 * Everybody within `among` (a condition on a contact `c`) by which of the conditions hold for them and by the language
 * they get, in one pass; the first of each as a sample. The bits are gathered in whole numbers, which group faster than
 * texts.
 */
export async function conditionGroups(
  sql: Sql,
  conditions: readonly string[],
  world: World,
  among: SqlPiece,
  spoken: Spoken | null = null,
): Promise<Group[]> {
  const rules = rulesOf(conditions);
  const names = Array.from({ length: Math.max(1, Math.ceil(rules.length / PER_NUMBER)) }, (_, i) =>
    identifier(`b${i}`),
  );
  const columnsIn = (here: World) =>
    names.map((name, n) => {
      const bits = rules
        .slice(n * PER_NUMBER, (n + 1) * PER_NUMBER)
        .map(
          (rule, i) =>
            fragment`case when ${holdsSql(rule, here)} then ${integerSql(2 ** i)} else 0 end`,
        );
      return fragment`${bits.length > 0 ? joinSql(bits, " + ") : constantSql("0")} as ${name}`;
    });
  const said = (spoken && tagValueSql(spoken.field, world, "c")) || constantSql("null");
  const rows = await overContacts(
    sql,
    (within, span) => sql<{
      numbers: number[];
      said: string | null;
      people: number;
      sample: number;
    }>`
      select array[${joinSql(names, ", ")}] as numbers, said, count(*)::int as people,
        min(id) as sample
      from (select c.id, left(${said}::text, ${SAID}) as said, ${joinSql(columnsIn({ ...world, span }), ", ")}
        from contacts c where ${within} and ${among}) g
      group by said, ${joinSql(names, ", ")}`,
  );
  const groups = joined(
    rows.map(({ said, ...row }) => ({ ...row, lang: spoken?.languageOf(said ?? undefined) })),
    (row) => JSON.stringify([row.numbers, row.lang]),
    (sum, { people }) => ({ ...sum, people: sum.people + people }),
  );
  return groups.map(({ numbers: found, lang, people, sample }) => ({
    ...(lang !== undefined && { lang }),
    bits: rules
      .map((_, i) => ((found[Math.floor(i / PER_NUMBER)]! >> (i % PER_NUMBER)) & 1 ? "1" : "0"))
      .join(""),
    people,
    sample,
  }));
}

/** The bits of some contacts, by their ids. */
export async function bitsOf(
  sql: Sql,
  contacts: readonly number[],
  conditions: readonly string[],
  world: World,
): Promise<Map<number, string>> {
  if (conditions.length === 0) return new Map();
  const rows = await sql<{ id: number; bits: string }>`
    select c.id, ${bitsSql(conditions, world)} as bits
    from contacts c where c.id = any (${[...contacts]}::bigint[])`;
  return new Map(rows.map(({ id, bits }) => [id, bits]));
}

/** The bits of one contact; none where there is no such contact. */
export async function bitsFor(
  sql: Sql,
  contact: number,
  conditions: readonly string[],
  world: World,
): Promise<string> {
  return (await bitsOf(sql, [contact], conditions, world)).get(contact) ?? "";
}
