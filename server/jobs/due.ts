/** When readers of a launch get it. */
import type { World } from "#core/rules/index.ts";
import { nextOwnMoment, ownMoment } from "#core/schedule/index.ts";
import type { Sql } from "../db/database.ts";
import type { Launch } from "../store/launches/freeze.ts";
import { type Due, zonesNamed } from "../store/launches/start.ts";

/**
 * At their own clocks, or all of them at once. Where its day has passed already, on its day, which is at once; or, if
 * `next`, the next time their clocks show it.
 */
export async function dueOf(
  sql: Sql,
  { pace: { own }, surroundings, zone }: Launch,
  schema: Pick<World, "fields" | "tables">,
  now: Date,
  next = false,
): Promise<Due> {
  if (!own) return { zones: new Map(), others: null };
  const at = (zone: string) => (next ? nextOwnMoment(own, zone, now) : ownMoment(own, zone));
  const field = surroundings.zoneField ?? null;
  const named = field === null ? [] : await zonesNamed(sql, field, schema);
  const zones = named.flatMap(({ zone: one }) => {
    const moment = one === null ? null : at(one);
    return one !== null && moment ? [[one, moment] as const] : [];
  });
  return { zones: new Map(zones), others: at(zone) };
}
