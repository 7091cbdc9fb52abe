/** Starting a launch: its readers are written down piece by piece, each once, however often it is stopped. */
import { constantSql, fragment, type World } from "#core/rules/index.ts";
import { first, type Sql } from "../../db/database.ts";
import { jsonb } from "../../db/values.ts";
import { bitsSql } from "../conditions.ts";
import { audienceSql, enoughSql, leftTopicSql } from "../readers.ts";
import { type Due, dueSql, EVERYBODY_NOW } from "./due.ts";
import type { Launch } from "./freeze.ts";
import { bestHours } from "./hours.ts";
import { zoneSql } from "./zones.ts";

/** When a scheduled launch is to begin; null where it is not scheduled any more. */
export const beginsAt = async (sql: Sql, id: string): Promise<Date | null> =>
  first(
    await sql<{ at: Date }>`select coalesce(starts_at, send_at) as at from launches
      where id = ${id} and state = 'scheduled'`,
  )?.at ?? null;

/** Takes a scheduled launch on. False where it is not scheduled any more. */
export async function beginLaunch(sql: Sql, id: string, now: Date): Promise<boolean> {
  const rows = await sql`update launches set state = 'sending', started_at = ${now}, readers_to = 0
    where id = ${id} and state = 'scheduled' returning id`;
  return rows.length > 0;
}

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
    const hours = due.all && (await bestHours(sql, launch, world, due, { from, to }));
    const hour = fragment`(${jsonb(hours ?? undefined)} ->> c.id::text)::int`;
    const at = dueSql(due, {
      ...{ from: now, hour: constantSql("h.hour") },
      zone: zoneSql(launch.surroundings.zoneField ?? null, world),
      later: fragment`coalesce(c.place / ${perHour}::int, 0)::int`,
    });
    await sql`insert into recipients (launch_id, contact_id, email, state, hour, next_try_at, due_at, bits)
      select ${launch.id}, c.id, c.email, ${launch.split ? "rest" : "waiting"}, h.hour, d.at, d.at, ${bitsSql(launch.conditions, world)}
      from (select c.*, row_number() over (order by c.id) - 1 + (select count(*) from recipients r
          where ${perHour !== null} and r.launch_id = ${launch.id}) as place
        from contacts c where c.id > ${from} and c.id <= ${to}
          and ${audienceSql(launch.audience, world)} and not ${leftTopicSql(launch.topic)}
          and not ${enoughSql(world, launch.campaignId)}
          and not exists (select 1 from suppressions s where s.email_folded = c.email_folded)) c,
        lateral (select ${hour} as hour) h, lateral (select ${at} as at) d
      order by c.id on conflict (launch_id, contact_id) do nothing`;
  }
  await sql`update launches set readers_to = ${to ?? constantSql("null")} where id = ${launch.id}`;
  return to;
}
