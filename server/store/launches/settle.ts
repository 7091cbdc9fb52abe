/** How hand-overs went, written down: with what they mean for the reader's address. */
import { LIMITS } from "#core/limits.ts";
import type { Sql } from "../../db/database.ts";
import { jsonb } from "../../db/values.ts";
import { suppressAll } from "../suppressions.ts";

export interface Outcome {
  readonly id: number;
  readonly state: "accepted" | "bounced" | "refused" | "deferred" | "waiting" | "unsure";
  readonly reply: string;
  /** When to try again what is put off. */
  readonly nextTryAt: Date;
  /** It was the reader's mailbox that put it off. */
  readonly spends?: boolean;
  /** It bounced, but there may well be such a mailbox. */
  readonly soft?: boolean;
}

/** Writes outcomes of messages that a sender holds by its lease, with their events; in a transaction where one bounced. */
export async function settle(
  sql: Sql,
  outcomes: readonly Outcome[],
  lease: string,
  now: Date,
): Promise<void> {
  if (outcomes.length === 0) return;
  // By their ids: without statistics the planner would read all of a launch for a handful of messages.
  const ids = outcomes.map(({ id }) => id);
  const rows = jsonb(outcomes.map((o) => ({ ...o, nextTryAt: o.nextTryAt.toISOString() })));
  const bounced = await sql<{ id: number }>`
    with outcome as (
      select * from jsonb_to_recordset(${rows})
        as o(id bigint, state text, reply text, "nextTryAt" timestamptz, spends boolean, soft boolean)
    ), settled as (
      update recipients r set state = o.state, reply = o.reply, next_try_at = o."nextTryAt", lease = null,
        tries = r.tries + case when o.spends then 1 else 0 end, soft = coalesce(o.soft, false),
        settled_at = case when o.state in ('accepted', 'bounced', 'refused') then ${now}::timestamptz end
      from outcome o where r.id = any (${ids}::bigint[]) and r.id = o.id
        and r.state in ('claimed', 'handed') and r.lease = ${lease}
      returning r.id, r.contact_id, r.launch_id, r.state, r.reply, r.soft
    ), told as (
      insert into events (kind, at, contact_id, launch_id, campaign_id, recipient_id, data)
      select s.state, ${now}::timestamptz, s.contact_id, s.launch_id, l.campaign_id, s.id,
        jsonb_build_object('reply', s.reply, 'soft', s.soft)
      from settled s join launches l on l.id = s.launch_id where s.state in ('accepted', 'bounced')
    )
    select id from settled where state = 'bounced'`;
  await holdBack(
    sql,
    bounced.map(({ id }) => id),
    now,
  );
}

/** Holds addresses back: at once where there is no such mailbox, else after so many launches in a row. */
export async function holdBack(sql: Sql, recipients: readonly number[], now: Date): Promise<void> {
  if (recipients.length === 0) return;
  const addresses = await sql<{ email: string }>`
    select c.email from recipients r join contacts c on c.id = r.contact_id
    where r.id = any (${[...recipients]}::bigint[]) and (not r.soft or ${LIMITS.softBounces} <= (
      select count(*) filter (where last.state = 'bounced') from (
        select o.state from recipients o where o.contact_id = r.contact_id
          and o.state in ('accepted', 'bounced') order by o.id desc limit ${LIMITS.softBounces}
      ) last))`;
  const emails = addresses.map(({ email }) => email);
  await suppressAll(sql, emails, "bounced", now);
}

/** What became of unsure messages that a service was asked after: those it has arrived, the others never left. */
export async function settleUnsure(
  sql: Sql,
  asked: readonly number[],
  arrived: readonly number[],
  now: Date,
): Promise<void> {
  const ids = [...arrived];
  await sql`
    with settled as (
      update recipients set
        state = case when id = any (${ids}::bigint[]) then 'accepted' else 'waiting' end,
        settled_at = case when id = any (${ids}::bigint[]) then ${now}::timestamptz end,
        next_try_at = ${now}
      where id = any (${[...asked]}::bigint[]) and state = 'unsure'
      returning id, contact_id, launch_id, state, reply
    )
    insert into events (kind, at, contact_id, launch_id, campaign_id, recipient_id, data)
    select 'accepted', ${now}::timestamptz, s.contact_id, s.launch_id, l.campaign_id, s.id,
      jsonb_build_object('reply', s.reply)
    from settled s join launches l on l.id = s.launch_id where s.state = 'accepted'`;
}

/** A person's word on the unsure messages of a launch. Gives how many there were. */
export async function decideUnsure(
  sql: Sql,
  launchId: string,
  again: boolean,
  now: Date,
): Promise<number> {
  const rows = await sql`update recipients set state = ${again ? "waiting" : "left"},
      next_try_at = ${now}, settled_at = ${again ? null : now}::timestamptz
    where launch_id = ${launchId} and state = 'unsure' returning id`;
  return rows.length;
}
