/** Claiming messages: each belongs to one sender at a time, by its lease. */
import type { Json } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { seesCode } from "#core/merge/index.ts";
import type { World } from "#core/rules/index.ts";
import type { When } from "#core/text/index.ts";
import type { Sql } from "../../db/database.ts";
import { jsonb } from "../../db/values.ts";
import { tearCodes } from "../codes.ts";
import { tagValuesSql } from "../tag-values.ts";
import type { Launch } from "./freeze.ts";

export interface Claimed {
  readonly id: number;
  readonly email: string;
  readonly contactId: number;
  readonly values: Record<string, Json>;
  /** Which of the launch's conditions hold for them. */
  readonly bits: string;
  /** Which variant they get. */
  readonly variant: number;
  /** They are not to be counted. */
  readonly uncounted: boolean;
  /** How often their mailbox put it off. */
  readonly tries: number;
  /** When it was due first. */
  readonly dueAt: Date | null;
}

/** What a launch claims with. */
export interface ClaimedLaunch extends Pick<Launch, "id" | "conditions"> {
  /** What any of its variants is merged with. */
  readonly refs: readonly string[];
  /** What each of its variants takes for its readers. */
  readonly variants: readonly ClaimedVariant[];
}
export interface ClaimedVariant {
  readonly codes: ReadonlyMap<string, readonly When[] | null>;
  /** Chooses the items that readers have of their own; null where there are none. */
  readonly own: ChooseOwn | null;
}
/** Values that say which items readers have, by contact. */
export type ChooseOwn = (
  sql: Sql,
  readers: readonly { readonly id: number; readonly values: Record<string, Json> }[],
) => Promise<ReadonlyMap<number, Readonly<Record<string, Json>>>>;

/**
 * Claims the next messages of a launch: looks again at suppression and address, and stores the values
 * each is merged with; codes are torn off their rolls for those who see one. Those who have left since are held.
 * What was put off comes after what was not tried yet. Within a transaction. `more` is false when nothing was due.
 */
export async function claimRecipients(
  sql: Sql,
  launch: ClaimedLaunch,
  schema: Pick<World, "fields" | "tables">,
  lease: string,
  now: Date,
): Promise<{ claimed: Claimed[]; more: boolean }> {
  const fresh = await claimIn(sql, "waiting", launch, schema, lease, now);
  return fresh.more ? fresh : claimIn(sql, "deferred", launch, schema, lease, now);
}

async function claimIn(
  sql: Sql,
  state: "waiting" | "deferred",
  { id: launchId, conditions, refs, variants }: ClaimedLaunch,
  schema: Pick<World, "fields" | "tables">,
  lease: string,
  now: Date,
): Promise<{ claimed: Claimed[]; more: boolean }> {
  const batch = await sql<Claimed & { held: boolean }>`
    with batch as (
      select r.id, c.email, coalesce(c.uncounted, false) as uncounted, ${tagValuesSql(refs, schema, "c")} as values,
        (c.id is null
          or exists (select 1 from suppressions s where s.email_folded = c.email_folded)
          or exists (select 1 from topic_choices t join launches l on l.topic_id = t.topic_id
            where l.id = r.launch_id and t.contact_id = c.id and not t.wants)) as held
      from recipients r left join contacts c on c.id = r.contact_id
      where r.launch_id = ${launchId} and r.state = ${state}
        and r.next_try_at <= ${now}
      order by r.id limit ${LIMITS.sendBatch} for update of r skip locked
    )
    update recipients r set
      state = case when b.held then 'held' else 'claimed' end,
      lease = case when b.held then null else ${lease}::text end,
      settled_at = case when b.held then ${now}::timestamptz end,
      email = coalesce(b.email, r.email),
      values = case when b.held then r.values else coalesce(r.values, b.values) end
    from batch b where r.id = b.id
    returning r.id, r.email, r.contact_id as "contactId", r.values, r.bits, r.variant, r.tries, b.uncounted,
      r.due_at as "dueAt", b.held`;
  const claimed = batch.filter((row) => !row.held);
  const values = new Map<number, Record<string, Json>>();
  for (const [variant, { codes, own }] of variants.entries()) {
    const its = claimed.filter((one) => one.variant === variant);
    if (its.length === 0) continue;
    if (own) for (const [id, kept] of await keepOwn(sql, own, its)) values.set(id, kept);
    for (const [roll, whens] of codes) {
      const those = its.filter(({ bits }) => seesCode(whens, conditions, bits));
      const ids = those.map(({ id }) => id);
      for (const row of await tearCodes(sql, launchId, roll, ids, now))
        values.set(row.id, row.values);
    }
  }
  return {
    claimed: claimed.map((row) => ({ ...row, values: values.get(row.id) ?? row.values })),
    more: batch.length > 0,
  };
}

/** Chooses for readers who have nothing chosen yet, and stores it with what they are merged with; by recipient. */
async function keepOwn(sql: Sql, own: ChooseOwn, claimed: readonly Claimed[]) {
  const isChosen = ({ values }: Claimed) =>
    Object.keys(values).some((ref) => ref.startsWith("live:"));
  const fresh = claimed.filter((one) => !isChosen(one));
  const chosen = await own(
    sql,
    fresh.map(({ contactId, values }) => ({ id: contactId, values })),
  );
  const rows = fresh.map(({ id, contactId }) => ({ id, values: chosen.get(contactId) ?? {} }));
  const kept = await sql<{ id: number; values: Record<string, Json> }>`
    update recipients r set values = r.values || n.values
    from jsonb_to_recordset(${jsonb(rows)}) as n(id bigint, values jsonb)
    where n.id = r.id returning r.id, r.values`;
  return new Map(kept.map(({ id, values }) => [id, values]));
}

/**
 * Marks claimed messages as about to go over the line: from here on a crash leaves them unsure. Gives those that
 * may go: the others are somebody else's by now, or their launch was paused.
 */
export async function markHanded(
  sql: Sql,
  ids: readonly number[],
  lease: string,
): Promise<Set<number>> {
  const rows = await sql<{ id: number }>`update recipients r set state = 'handed'
    where r.id = any (${[...ids]}::bigint[]) and r.state = 'claimed' and r.lease = ${lease}
      and exists (select 1 from launches l where l.id = r.launch_id and l.state = 'sending')
    returning r.id`;
  return new Set(rows.map(({ id }) => id));
}

/** Gives back what a sender claimed and did not hand over. */
export async function releaseClaimed(sql: Sql, launchId: string, lease: string): Promise<void> {
  await sql`update recipients set state = case when tries = 0 then 'waiting' else 'deferred' end, lease = null
    where launch_id = ${launchId} and state = 'claimed' and lease = ${lease}`;
}

/**
 * Takes up what senders without a lease that still lasts have left: what was only claimed goes back, and what
 * was on the line is given, to be asked after.
 */
export async function recoverRecipients(
  sql: Sql,
  launchId: string,
  lease: string,
  now: Date,
): Promise<{ id: number }[]> {
  const rows = await sql<{ id: number; state: string }>`
    update recipients r set
      state = case when r.state = 'handed' then 'handed' when r.tries = 0 then 'waiting' else 'deferred' end,
      lease = case when r.state = 'handed' then ${lease}::text end
    where r.launch_id = ${launchId} and r.state in ('claimed', 'handed')
      and not exists (select 1 from leases l where l.token = r.lease and l.until > ${now})
    returning r.id, r.state`;
  return rows.filter(({ state }) => state === "handed").map(({ id }) => ({ id }));
}
