/** Addresses that get nothing, whatever lists they are on. Contacts carry the reason beside them (`held`). */
import { foldAddress } from "#core/fields/index.ts";
import { LIMITS } from "#core/limits.ts";
import { first, type Sql } from "../db/database.ts";

export const REASONS = ["unsubscribed", "bounced", "blocked", "complained"] as const;
export type Reason = (typeof REASONS)[number];

/** Why nothing is sent to an address; null where something may be. */
export const heldReason = async (sql: Sql, email: string): Promise<Reason | null> =>
  first(
    await sql<{ reason: Reason }>`
      select reason from suppressions where email_folded = ${foldAddress(email)}`,
  )?.reason ?? null;

/** Puts addresses on the list. The first reason stays. Gives how many were not on it yet. */
export async function suppressAll(
  sql: Sql,
  addresses: readonly string[],
  reason: Reason,
  at: Date,
): Promise<number> {
  const rows = await sql`
    with added as (
      insert into suppressions (email_folded, reason, at)
      select distinct a, ${reason}::text, ${at}::timestamptz
      from unnest(${addresses.map(foldAddress)}::text[]) a
      on conflict do nothing returning email_folded, reason
    ), marked as (
      update contacts c set held = added.reason from added where c.email_folded = added.email_folded
    )
    select 1 from added`;
  return rows.length;
}

export async function suppress(sql: Sql, email: string, reason: Reason, at: Date): Promise<void> {
  await suppressAll(sql, [email], reason, at);
}

/** Takes an address off the list, where it is on it for one of these reasons. */
export async function release(
  sql: Sql,
  email: string,
  reasons: readonly Reason[] = REASONS,
): Promise<void> {
  const folded = foldAddress(email);
  await sql`with gone as (delete from suppressions
      where email_folded = ${folded} and reason = any (${[...reasons]}::text[]) returning email_folded)
    update contacts c set held = null from gone where c.email_folded = gone.email_folded`;
}

export interface Suppressed {
  readonly email: string;
  readonly reason: Reason;
  readonly at: Date;
}

/** A page of the list, the latest first; `page` counts from 1. */
export async function pageOfSuppressions(
  sql: Sql,
  search: string,
  page: number,
): Promise<{ rows: Suppressed[]; total: number }> {
  const wanted = foldAddress(search);
  const total = first(
    await sql<{ n: number }>`select count(*)::int as n from suppressions
      where position(${wanted}::text in email_folded) > 0`,
  )!.n;
  const rows = await sql<Suppressed>`
    select email_folded as email, reason, at from suppressions
    where position(${wanted}::text in email_folded) > 0
    order by at desc, email_folded limit ${LIMITS.contactsPerPage}
    offset ${(page - 1) * LIMITS.contactsPerPage}`;
  return { rows, total };
}

/** The whole list, for a file. */
export const allSuppressions = (sql: Sql): Promise<Suppressed[]> =>
  sql<Suppressed>`select email_folded as email, reason, at from suppressions order by email_folded`;
