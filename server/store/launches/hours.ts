/** The hours in which readers read. */

import { LIMITS } from "#core/limits.ts";
import { fragment, type Sql as SqlPiece, type World } from "#core/rules/index.ts";
import { bestHour, type Hours, NO_HOURS, type Quiet } from "#core/schedule/index.ts";
import { first, type Sql } from "../../db/database.ts";
import { audienceSql } from "../readers.ts";
import type { Due } from "./due.ts";
import type { Launch } from "./freeze.ts";
import { zoneSql } from "./zones.ts";

type Schema = Pick<World, "fields" | "tables">;

interface Where {
  /** The field that names readers' zones, those that are known, and the zone of all who name none of them. */
  readonly field: string | null;
  readonly zones: readonly string[];
  readonly zone: string;
}

/** Opens and clicks of people by the hour of their own clock, of contacts `c` that fit a condition; those of each. */
async function hoursOfEach(
  sql: Sql,
  { field, zones, zone }: Where,
  schema: Schema,
  which: SqlPiece,
  now: Date,
): Promise<Map<number, Hours>> {
  const rows = await sql<{ id: number; hour: number; n: number }>`
    select w.id, extract(hour from e.at at time zone w.zone)::int as hour, count(*)::int as n
    from (select c.id, case when ${zoneSql(field, schema)} = any (${[...zones]}::text[])
        then ${zoneSql(field, schema)} else ${zone}::text end as zone from contacts c where ${which}) w
    join events e on e.contact_id = w.id and e.kind in ('opened', 'clicked') and not e.machine
      and e.at > ${now}::timestamptz - make_interval(days => ${LIMITS.bestHourDays}::int) and e.at <= ${now}
    group by 1, 2`;
  const each = new Map<number, number[]>();
  for (const { id, hour, n } of rows) {
    const own = each.get(id) ?? [...NO_HOURS];
    own[hour] = n;
    each.set(id, own);
  }
  return each;
}

const together = (each: Iterable<Hours>): Hours => {
  const sum = [...NO_HOURS];
  for (const own of each)
    own.forEach((n, i) => {
      sum[i]! += n;
    });
  return sum;
};

/** Readers of whom it is asked when all of them read. */
const sampleSql = (which: SqlPiece): SqlPiece =>
  fragment`c.id in (select c.id from contacts c where ${which} order by md5(c.id::text) limit ${LIMITS.bestHourReaders})`;

type Reads = Pick<Launch, "audience" | "surroundings" | "pace" | "startedAt" | "sendAt">;

const whereOf = ({ surroundings }: Reads, { zones, zone }: Pick<Due, "zones" | "zone">): Where => ({
  ...{ field: surroundings.zoneField ?? null, zones, zone },
});
/** As it was when it began, however often it is stopped. */
const momentOf = ({ startedAt, sendAt }: Reads): Date => startedAt ?? sendAt;

/** When the readers of a launch read, all together. */
export async function hoursOfAll(
  sql: Sql,
  launch: Reads,
  world: World,
  due: Pick<Due, "zones" | "zone">,
): Promise<Hours> {
  const which = sampleSql(audienceSql(launch.audience, world));
  return together(
    (await hoursOfEach(sql, whereOf(launch, due), world, which, momentOf(launch))).values(),
  );
}

/** The hour in which each contact after one id up to another reads, by their ids. */
export async function bestHours(
  sql: Sql,
  launch: Reads,
  world: World,
  due: Due,
  { from, to }: { readonly from: number; readonly to: number },
): Promise<Record<number, number>> {
  const within = fragment`c.id > ${from} and c.id <= ${to}`;
  const each = await hoursOfEach(sql, whereOf(launch, due), world, within, momentOf(launch));
  const ids = await sql<{ id: number }>`select c.id from contacts c where ${within}`;
  const of = (own: Hours) => bestHour(own, due.all ?? NO_HOURS, launch.pace.quiet);
  return Object.fromEntries(ids.map(({ id }) => [id, of(each.get(id) ?? NO_HOURS)]));
}

export interface HoursSeen {
  /** How many readers get it in each hour, of those that were looked at. */
  readonly hours: Hours;
  readonly readers: number;
  /** How many of them have opened nothing. */
  readonly silent: number;
}

/** In which hours readers who fit a condition on a contact `c` would get it. */
export async function hoursSeen(
  sql: Sql,
  where: Where,
  schema: Schema,
  which: SqlPiece,
  quiet: Quiet | null,
  now: Date,
): Promise<HoursSeen> {
  const each = await hoursOfEach(sql, where, schema, sampleSql(which), now);
  const all = together(each.values());
  const { n } = first(
    await sql<{ n: number }>`select count(*)::int as n from contacts c where ${sampleSql(which)}`,
  )!;
  const hours = [...NO_HOURS];
  for (const own of each.values()) hours[bestHour(own, all, quiet)]!++;
  const silent = n - each.size;
  hours[bestHour(NO_HOURS, all, quiet)]! += silent;
  return { hours, readers: n, silent };
}
