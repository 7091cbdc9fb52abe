/** What rules are read against, as things are now. */
import { DateTime } from "luxon";
import { isGroup, KEPT_SEGMENTS, pathOf, type Rule, type World } from "#core/rules/index.ts";
import type { Clock } from "../clock.ts";
import type { Sql } from "../db/database.ts";
import { getSegments } from "../store/audience.ts";
import { getSchema } from "../store/fields.ts";
import { getSettings } from "../store/settings.ts";
import { namedThings, namesOfRecords } from "../store/subjects.ts";

/** Fields, tables, segments and names, and today's date in the sender's zone. `rules` are others that are put into words. */
export async function worldOf(sql: Sql, clock: Clock, rules: readonly Rule[] = []): Promise<World> {
  const { zone } = (await getSettings(sql)).sender;
  const at = clock.now();
  const today = DateTime.fromJSDate(at, { zone }).toISODate()!;
  const schema = await getSchema(sql);
  const segments = [...KEPT_SEGMENTS, ...(await getSegments(sql))];
  const names = new Map(segments.map(({ id, name }) => [`segment:${id}`, name]));
  for (const { key, name } of await namedThings(sql)) names.set(key, name);
  const world: World = {
    ...schema,
    segments: new Map(segments.map(({ id, rule }) => [id, rule])),
    now: { today, at, zone },
    names,
  };
  await nameRecords(sql, [...world.segments.values(), ...rules], world, names);
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
  const visit = (rule: Rule): void => {
    if (isGroup(rule)) {
      for (const inner of rule.rules) visit(inner);
      return;
    }
    if (rule.type !== "field" || typeof rule.argument !== "number") return;
    const table = pathOf(rule.field, world)?.field.table;
    if (table) wanted.set(table, (wanted.get(table) ?? new Set()).add(rule.argument));
  };
  for (const rule of rules) visit(rule);
  for (const [table, ids] of wanted) {
    if (!world.tables.has(table)) continue;
    for (const { id, name } of await namesOfRecords(sql, table, [...ids]))
      names.set(`record:${table}:${id}`, name);
  }
}
