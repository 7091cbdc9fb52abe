/** What comes back of messages that were taken: bounces that come late, and complaints. */
import type { Database } from "../../db/database.ts";
import { first } from "../../db/database.ts";
import { suppress } from "../suppressions.ts";
import { holdBack } from "./settle.ts";

/**
 * A message that was taken did not arrive after all: it counts as bounced, and no longer as delivered. Gives whether
 * that was news; one that comes twice, or for a message that was never taken, is none.
 */
export function bounceLate(
  database: Database,
  recipient: number,
  { reply, soft }: { readonly reply: string; readonly soft: boolean },
  at: Date,
): Promise<boolean> {
  return database.tx(async (sql) => {
    const rows = await sql<{ launch: string }>`
      with late as (
        update recipients set state = 'bounced', reply = ${reply}, soft = ${soft}, settled_at = ${at}
        where id = ${recipient} and state in ('accepted', 'unsure') returning id, launch_id, contact_id
      ), changed as (
        delete from events e using late where e.recipient_id = late.id and e.kind = 'accepted' returning e.id
      ), counted as (
        update launch_totals t set accepted = t.accepted - 1
        from late where t.launch_id = late.launch_id and exists (select 1 from changed)
      )
      select launch_id as launch from late`;
    if (rows.length === 0) return false;
    await sql`insert into events (kind, at, contact_id, launch_id, campaign_id, recipient_id, data)
      select 'bounced', ${at}::timestamptz, r.contact_id, r.launch_id, l.campaign_id, r.id,
        jsonb_build_object('reply', r.reply, 'soft', r.soft, 'late', true)
      from recipients r join launches l on l.id = r.launch_id where r.id = ${recipient}`;
    await holdBack(sql, [recipient], at);
    return true;
  });
}

/** Somebody has called a message spam: they get nothing any more. Gives whether that was news. */
export function complain(database: Database, recipient: number, at: Date): Promise<boolean> {
  return database.tx(async (sql) => {
    const row = first(
      await sql<{ email: string }>`
        with told as (
          insert into events (kind, at, contact_id, launch_id, campaign_id, recipient_id)
          select 'complained', ${at}::timestamptz, r.contact_id, r.launch_id, l.campaign_id, r.id
          from recipients r join launches l on l.id = r.launch_id
          where r.id = ${recipient} and not exists (
            select 1 from events e where e.recipient_id = r.id and e.kind = 'complained')
          returning recipient_id)
        select r.email from recipients r join told on told.recipient_id = r.id`,
    );
    if (!row?.email) return row !== null;
    await suppress(sql, row.email, "complained", at);
    return true;
  });
}
