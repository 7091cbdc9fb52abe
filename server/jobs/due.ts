/** When readers of a launch get it. */
import type { World } from "#core/rules/index.ts";
import { hourTime, nextOwnMoment, type OwnTime, ownDay, ownMoment } from "#core/schedule/index.ts";
import type { Sql } from "../db/database.ts";
import { getSchema } from "../store/fields.ts";
import { type Due, momentKey } from "../store/launches/due.ts";
import type { Launch } from "../store/launches/freeze.ts";
import { knownZones } from "../store/launches/zones.ts";
import { earlier } from "./later.ts";

const HOURS = Array.from({ length: 24 }, (_, hour) => hour);

/**
 * At their own clocks, in the hour in which they read, or all of them at once. Where its day has passed already, on its
 * day, which is at once; or, if `next`, the next time their clocks show it.
 */
export async function dueOf(
  sql: Sql,
  { pace: { own, best, quiet }, surroundings, zone }: Launch,
  schema: Pick<World, "fields" | "tables">,
  now: Date,
  next = false,
): Promise<Due> {
  const field = surroundings.zoneField ?? null;
  const wanted = own !== null || best !== null || quiet !== null;
  const zones = wanted ? await knownZones(sql, field, schema) : [];
  const moments = new Map<string, Date>();
  const put = (time: OwnTime, hour: number | null) => {
    for (const one of [...zones, ""]) {
      const there = one || zone;
      const at = next ? nextOwnMoment(time, there, now) : ownMoment(time, there);
      if (at) moments.set(momentKey(one, hour), at);
    }
  };
  if (own) put(own, null);
  else if (best !== null) for (const hour of HOURS) put({ date: best, time: hourTime(hour) }, hour);
  return { moments, quiet, zones, zone, all: null };
}

/** The earliest moment at which anybody can be due whose own clock says when they get it; null where it is one for all. */
export async function firstDue(sql: Sql, launch: Launch, now: Date): Promise<Date | null> {
  if (ownDay(launch.pace) === null) return null;
  const { moments } = await dueOf(sql, launch, await getSchema(sql), now);
  return [...moments.values()].reduce<Date | null>((a, b) => (a ? earlier(a, b) : b), null);
}
