/** Starting a launch: its readers are written down piece by piece, each once, however often it is stopped. */
import { LIMITS } from "#core/limits.ts";
import { constantSql, fragment, type Sql as SqlPiece, type World } from "#core/rules/index.ts";
import type { ZoneCount } from "#core/schedule/index.ts";
import { first, type Sql } from "../../db/database.ts";
import { bitsSql } from "../conditions.ts";
import { audienceSql, enoughSql, leftTopicSql } from "../readers.ts";
import { tagValueSql } from "../tag-values.ts";
import type { Launch } from "./freeze.ts";

/** Takes a scheduled launch on. False where it is not scheduled any more. */
export async function beginLaunch(sql: Sql, id: string, now: Date): Promise<boolean> {
  const rows = await sql`update launches set state = 'sending', started_at = ${now}, readers_to = 0
    where id = ${id} and state = 'scheduled' returning id`;
  return rows.length > 0;
}

/** When readers get it: by the zone their contact names, and all others. */
export interface Due {
  readonly zones: ReadonlyMap<string, Date>;
  readonly others: Date | null;
}
const EVERYBODY_NOW: Due = { zones: new Map(), others: null };

/** The moment at which a contact `c` is due; null where that is at once. */
export function ownDueSql(zone: SqlPiece, { zones, others }: Due): SqlPiece {
  if (others === null) return constantSql("null::timestamptz");
  const byZone = JSON.stringify(Object.fromEntries([...zones].map(([zone, at]) => [zone, at])));
  return fragment`coalesce((${byZone}::jsonb ->> ${zone})::timestamptz, ${others}::timestamptz)`;
}

/** The zone that a contact `c` names in a field. */
export const zoneSql = (field: string | null, schema: Pick<World, "fields" | "tables">): SqlPiece =>
  (field === null ? null : tagValueSql(`contact:${field}`, schema, "c")) ??
  constantSql("null::text");

/** The zones that contacts name in a field, and how many of those that fit a condition on a contact `c` name each. */
export const zonesNamed = (
  sql: Sql,
  field: string | null,
  schema: Pick<World, "fields" | "tables">,
  which: SqlPiece = constantSql("true"),
): Promise<ZoneCount[]> =>
  sql<ZoneCount>`select ${zoneSql(field, schema)} as zone, count(*)::int as people
    from contacts c where ${which} group by 1 order by 2 desc limit ${LIMITS.zonesNamed}`;

/**
 * Writes the next readers of a launch down, looking at `most` contacts; in a transaction. Gives up to which
 * contact it has come, or null when all have been looked at.
 */
export async function writeReaders(
  sql: Sql,
  launch: Launch,
  world: World,
  most: number,
  now: Date,
  due: Due = EVERYBODY_NOW,
): Promise<number | null> {
  const row = first(
    await sql<{ from: number | null; to: number | null }>`select l.readers_to as from,
        (select max(id) from (select id from contacts where id > l.readers_to order by id limit ${most}) p) as to
      from launches l where l.id = ${launch.id} and l.state = 'sending' for update`,
  );
  if (row === null || row.from === null) return null;
  const { from, to } = row;
  if (to !== null) {
    // Those of a test are all of the rest until it is drawn who gets what, and when.
    const perHour = launch.split ? null : launch.pace.perHour;
    await sql`insert into recipients (launch_id, contact_id, email, state, next_try_at, due_at, bits)
      select ${launch.id}, c.id, c.email, ${launch.split ? "rest" : "waiting"}, d.at, d.at, ${bitsSql(launch.conditions, world)}
      from (select c.*, row_number() over (order by c.id) - 1 + (select count(*) from recipients r
          where ${perHour !== null} and r.launch_id = ${launch.id}) as place
        from contacts c where c.id > ${from} and c.id <= ${to}
          and ${audienceSql(launch.audience, world)} and not ${leftTopicSql(launch.topic)}
          and not ${enoughSql(world, launch.campaignId)}
          and not exists (select 1 from suppressions s where s.email_folded = c.email_folded)) c,
        lateral (select greatest(${now}::timestamptz, ${ownDueSql(zoneSql(launch.surroundings.zoneField ?? null, world), due)})
          + make_interval(hours => coalesce(c.place / ${perHour}::int, 0)::int) as at) d
      order by c.id on conflict (launch_id, contact_id) do nothing`;
  }
  await sql`update launches set readers_to = ${to ?? constantSql("null")} where id = ${launch.id}`;
  return to;
}
