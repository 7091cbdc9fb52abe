/** What rules are read against, as things are now. */
import { DateTime } from "luxon";
import {
  isGroup,
  KEPT_SEGMENTS,
  pathOf,
  type Rule,
  segmentsNamed,
  type World,
} from "#core/rules/index.ts";
import type { Clock } from "../clock.ts";
import type { Sql } from "../db/database.ts";
import { getSegmentsOf, type Segment } from "../store/audience.ts";
import { getSchema } from "../store/fields.ts";
import { getSettings } from "../store/settings.ts";
import { namedThings, namesOfRecords } from "../store/subjects.ts";

/** Everything that some rules name, and what the segments they name do in turn. */
async function segmentsBehind(sql: Sql, rules: readonly Rule[]): Promise<Segment[]> {
  const found = new Map<string, Segment>(KEPT_SEGMENTS.map((one) => [one.id, one]));
  const asked = new Set(found.keys());
  let wanted = [...rules, ...KEPT_SEGMENTS.map(({ rule }) => rule)].flatMap(segmentsNamed);
  for (;;) {
    const missing = [...new Set(wanted)].filter((id) => !asked.has(id));
    if (missing.length === 0) return [...found.values()];
    for (const id of missing) asked.add(id);
    const next = await getSegmentsOf(sql, missing);
    for (const segment of next) found.set(segment.id, segment);
    wanted = next.flatMap(({ rule }) => segmentsNamed(rule));
  }
}

/** Conditions of rules, whatever groups they stand in. */
const conditionsIn = (rule: Rule): Exclude<Rule, { rules: unknown }>[] =>
  isGroup(rule) ? rule.rules.flatMap(conditionsIn) : [rule as Exclude<Rule, { rules: unknown }>];

/** Lists, campaigns, products and questions a rule names, as `namedThings` knows them. */
function keysIn(rule: Rule): string[] {
  return conditionsIn(rule).flatMap((one) => {
    if (one.type === "list") return [`list:${one.list}`];
    if (one.type !== "activity") return [];
    return [
      ...(one.campaign ? [`campaign:${one.campaign}`] : []),
      ...(one.item ? [`${one.did === "bought" ? "product" : "question"}:${one.item}`] : []),
    ];
  });
}

/**
 * Fields, tables and today's date in the sender's zone, with the segments that these rules name (and those that
 * they name in turn) and names for all of it: only rules of these can be read in it.
 */
export async function worldOf(sql: Sql, clock: Clock, rules: readonly Rule[] = []): Promise<World> {
  const { zone } = (await getSettings(sql)).sender;
  const at = clock.now();
  const today = DateTime.fromJSDate(at, { zone }).toISODate()!;
  const schema = await getSchema(sql);
  const segments = await segmentsBehind(sql, rules);
  const names = new Map(segments.map(({ id, name }) => [`segment:${id}`, name]));
  const all = [...segments.map(({ rule }) => rule), ...rules];
  for (const { key, name } of await namedThings(sql, all.flatMap(keysIn))) names.set(key, name);
  const world: World = {
    ...schema,
    segments: new Map(segments.map(({ id, rule }) => [id, rule])),
    now: { today, at, zone },
    names,
  };
  await nameRecords(sql, all, world, names);
  return world;
}

/** What the records are called that rules compare with. */
async function nameRecords(
  sql: Sql,
  rules: readonly Rule[],
  world: World,
  names: Map<string, string>,
): Promise<void> {
  const wanted = new Map<string, Set<number>>();
  for (const rule of rules.flatMap(conditionsIn)) {
    if (rule.type !== "field" || typeof rule.argument !== "number") continue;
    const table = pathOf(rule.field, world)?.field.table;
    if (table) wanted.set(table, (wanted.get(table) ?? new Set()).add(rule.argument));
  }
  for (const [table, ids] of wanted) {
    if (!world.tables.has(table)) continue;
    for (const { id, name } of await namesOfRecords(sql, table, [...ids]))
      names.set(`record:${table}:${id}`, name);
  }
}
