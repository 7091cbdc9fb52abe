/** The one rule language: groups of all, any or none of conditions on a contact. */
import { z } from "zod";
import { LIMITS } from "../limits.ts";
import { constantSql, fragment, joinSql, type Sql } from "./fragment.ts";
import type { Said } from "./said.ts";
import type { Predicate, Term } from "./term.ts";
import { type ActivityTest, activityTerm } from "./terms/activity.ts";
import { type FieldTest, fieldTerm } from "./terms/field.ts";
import { type ListTest, listTerm, type SegmentTest, segmentTerm } from "./terms/membership.ts";
import type { Schema, World } from "./world.ts";

/** The conditions there are. A new kind is a file under `terms/`, its type here and a line in the list. */
export type Condition = FieldTest | ActivityTest | ListTest | SegmentTest;
// biome-ignore lint/suspicious/noExplicitAny: each kind's own shape is kept by its schema
const TERMS: Record<Condition["type"], Term<any>> = {
  field: fieldTerm,
  activity: activityTerm,
  list: listTerm,
  segment: segmentTerm({
    conditions: conditionsIn,
    compile: compileRule,
    sql: ruleSql,
    said: saidIn,
  }),
};
const termOf = (condition: Condition): Term<Condition> => TERMS[condition.type];

// A type rather than an interface, so that a rule is JSON to the compiler too.
export type Group = {
  readonly type: "all" | "any" | "none";
  readonly rules: readonly Rule[];
};
export type Rule = Group | Condition;

export const isGroup = (rule: Rule): rule is Group => "rules" in rule;
export const EVERYBODY: Group = { type: "all", rules: [] };

const depth = (rule: Rule): number =>
  isGroup(rule) ? 1 + Math.max(0, ...rule.rules.map(depth)) : 1;

/** Its conditions, whatever groups they stand in. */
export function conditionsIn(rule: Rule): Condition[] {
  return isGroup(rule) ? rule.rules.flatMap(conditionsIn) : [rule];
}

const hasNul = (value: unknown): boolean =>
  typeof value === "string"
    ? value.includes("\0")
    : typeof value === "object" && value !== null && Object.values(value).some(hasNul);

const groupSchema = z.strictObject({
  type: z.enum(["all", "any", "none"]),
  rules: z.array(z.lazy(() => anyRule)).max(100, "At most 100 conditions in a group."),
});
const anyRule: z.ZodType<Rule> = z.lazy(() =>
  z.discriminatedUnion("type", [
    groupSchema,
    ...Object.values(TERMS).map(({ schema }) => schema),
  ] as never),
) as never;
export const ruleSchema: z.ZodType<Rule> = anyRule
  .refine(
    (rule) => depth(rule) <= LIMITS.rulesDepth,
    `Groups go at most ${LIMITS.rulesDepth} deep.`,
  )
  .refine(
    (rule) => conditionsIn(rule).length <= LIMITS.ruleOwn,
    `A rule has at most ${LIMITS.ruleOwn} conditions. Split it into segments.`,
  )
  // The database keeps no such character, and nobody can have typed it.
  .refine((rule) => !hasNul(rule), "This has a character in it that cannot be kept.");

/** What it is about, as keys of `World.names`: `list:ID`, `record:TABLE:ID` …, as often as it says so. */
export const namesIn = (rule: Rule, schema: Schema): string[] =>
  conditionsIn(rule).flatMap((one) => termOf(one).names?.(one, schema) ?? []);

/** What is wrong with a rule against the world there is, or null. */
export function ruleProblem(rule: Rule, world: World): string | null {
  if (!isGroup(rule)) return termOf(rule).problem(rule, world);
  for (const inner of rule.rules) {
    const problem = ruleProblem(inner, world);
    if (problem) return problem;
  }
  return null;
}

/** A rule in words that anyone can read. */
export function describe(rule: Rule, world: World): string {
  const words = (inner: Rule, outer: boolean): string => {
    if (!isGroup(inner)) return termOf(inner).words(inner, world);
    if (inner.rules.length === 0) return inner.type === "any" ? "nobody" : "everybody";
    const list = inner.rules.map((one) => words(one, false));
    const text = list.join(inner.type === "all" ? " and " : " or ");
    if (inner.type === "none") return `not (${text})`;
    return outer || list.length === 1 ? text : `(${text})`;
  };
  return words(rule, true);
}

/** The rule as a predicate, made once for many contacts. */
export function compileRule(rule: Rule, world: World): Predicate {
  if (!isGroup(rule)) return termOf(rule).compile(rule, world);
  const inner = rule.rules.map((one) => compileRule(one, world));
  if (rule.type === "all") return chain(inner, true);
  const any = chain(inner, false);
  return rule.type === "any" ? any : (who) => !any(who);
}

/** All of them (or any), as calls one within the other: each call stays one the machine can learn. */
function chain(list: readonly Predicate[], all: boolean): Predicate {
  if (list.length === 0) return () => all;
  const [first, ...rest] = list as [Predicate, ...Predicate[]];
  if (rest.length === 0) return first;
  const others = chain(rest, all);
  return all ? (who) => first(who) && others(who) : (who) => first(who) || others(who);
}

/**
 * The same rule as a condition on the contacts table, named `c`. It can be null where it does not hold, so
 * it stands where null counts as false (`where`, `filter`), or in a `coalesce`.
 */
export function ruleSql(rule: Rule, world: World): Sql {
  if (!isGroup(rule)) return termOf(rule).sql(rule, world);
  if (rule.rules.length === 0) return constantSql(rule.type === "any" ? "false" : "true");
  const inner = rule.rules.map((one) => ruleSql(one, world));
  if (rule.type === "all") return fragment`(${joinSql(inner, " and ")})`;
  const any = fragment`(${joinSql(inner, " or ")})`;
  // With all and any, null does what false does; only the opposite needs to know which it is.
  return rule.type === "any" ? any : fragment`not coalesce(${any}, false)`;
}

/** The same rule as standard Liquid says it, on `facts`: what is compared, by path. Null where it cannot say all of it. */
export function saidIn(rule: Rule, world: World): Said | null {
  if (!isGroup(rule)) return termOf(rule).liquid?.(rule, world) ?? null;
  const inner: Said[] = [];
  for (const one of rule.rules) {
    const said = saidIn(one, world);
    if (said === null) return null;
    inner.push(said);
  }
  if (rule.type === "all") return { all: inner };
  return rule.type === "any" ? { any: inner } : { none: inner };
}

/**
 * By how many conditions a contact misses a rule, as SQL: 0 where it is caught. The fewest that would have to
 * turn out otherwise: of all they add up, of any the nearest counts.
 */
export function missesSql(rule: Rule, world: World, opposite = false): Sql {
  if (!isGroup(rule)) {
    const holds = fragment`coalesce(${ruleSql(rule, world)}, false)`;
    return opposite ? fragment`(${holds})::int` : fragment`(not ${holds})::int`;
  }
  const turned = rule.type === "none" ? !opposite : opposite;
  const adds = (rule.type === "all") !== turned;
  if (rule.rules.length === 0) return constantSql(adds ? "0" : "1");
  const inner = rule.rules.map((one) => missesSql(one, world, turned));
  return adds ? fragment`(${joinSql(inner, " + ")})` : fragment`least(${joinSql(inner, ", ")})`;
}
