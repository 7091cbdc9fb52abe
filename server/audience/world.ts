/** What rules are read against, as things are now. */
import { KEPT_SEGMENTS, namesIn, type Rule, type World } from "#core/rules/index.ts";
import { nowIn } from "#core/schedule/index.ts";
import type { Clock } from "../clock.ts";
import type { Sql } from "../db/database.ts";
import { ruleOfSource, segmentsBehind } from "../store/audience.ts";
import { getSchema } from "../store/fields.ts";
import { getSettings } from "../store/settings.ts";
import { namedThings } from "../store/subjects.ts";

/** Segments that are kept can be read in every world. */
const KEPT = KEPT_SEGMENTS.map(({ id }) => ruleOfSource({ kind: "segment", id }));

/**
 * Fields, tables and today's date in the sender's zone, with the segments that these rules name (and those that
 * they name in turn) and names for all of it: only rules of these can be read in it.
 */
export async function worldOf(sql: Sql, clock: Clock, rules: readonly Rule[] = []): Promise<World> {
  const { sender, sending } = await getSettings(sql);
  const { zone } = sender;
  const { capEmails: most, capDays } = sending;
  const since = new Date(clock.now().getTime() - capDays * 24 * 3_600_000);
  const schema = await getSchema(sql);
  const segments = await segmentsBehind(sql, [...KEPT, ...rules]);
  const keys = [...segments.map(({ rule }) => rule), ...rules].flatMap((rule) =>
    namesIn(rule, schema),
  );
  const things = await namedThings(sql, keys, schema.tables);
  return {
    ...schema,
    segments: new Map(segments.map(({ id, rule }) => [id, rule])),
    now: nowIn(zone, clock.now()),
    cap: most === undefined ? null : { most, since },
    names: new Map([
      ...segments.map(({ id, name }) => [`segment:${id}`, name] as const),
      ...things.map(({ key, name }) => [key, name] as const),
    ]),
  };
}
