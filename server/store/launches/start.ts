/** Starting a launch: its readers are written down piece by piece, each once, however often it is stopped. */
import { constantSql, type World } from "#core/rules/index.ts";
import { first, type Sql } from "../../db/database.ts";
import { audienceSql, leftTopicSql } from "../audience.ts";
import { bitsSql } from "../conditions.ts";
import type { Launch } from "./freeze.ts";

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
): Promise<number | null> {
  const row = first(
    await sql<{ from: number | null; to: number | null }>`select l.readers_to as from,
        (select max(id) from (select id from contacts where id > l.readers_to order by id limit ${most}) p) as to
      from launches l where l.id = ${launch.id} and l.state = 'sending' for update`,
  );
  if (row === null || row.from === null) return null;
  const { from, to } = row;
  if (to !== null) {
    await sql`insert into recipients (launch_id, contact_id, email, next_try_at, bits)
      select ${launch.id}, c.id, c.email, ${now}, ${bitsSql(launch.conditions, world)} from contacts c
      where c.id > ${from} and c.id <= ${to}
        and ${audienceSql(launch.audience, world)} and not ${leftTopicSql(launch.topic)}
        and not exists (select 1 from suppressions s where s.email_folded = c.email_folded)
      order by c.id on conflict (launch_id, contact_id) do nothing`;
  }
  await sql`update launches set readers_to = ${to ?? constantSql("null")} where id = ${launch.id}`;
  return to;
}
