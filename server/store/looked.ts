/** Which versions of a campaign's email have been looked at, by the states in which they were. */
import type { Sql } from "../db/database.ts";

/** Those of some states that have been looked at. */
export async function lookedAt(
  sql: Sql,
  campaign: string,
  states: readonly string[],
): Promise<ReadonlySet<string>> {
  const rows = await sql<{ state: string }>`select state from looked_at
    where campaign_id = ${campaign} and state = any (${[...states]}::text[])`;
  return new Set(rows.map(({ state }) => state));
}

/** Keeps that somebody has looked at some; what was looked at before stays with who did. */
export async function markLooked(
  sql: Sql,
  campaign: string,
  states: readonly string[],
  member: string,
  at: Date,
): Promise<void> {
  await sql`insert into looked_at (campaign_id, state, member_id, at)
    select ${campaign}, state, ${member}, ${at} from unnest(${[...states]}::text[]) as state
    on conflict do nothing`;
}

/** Takes it back. */
export async function unmarkLooked(
  sql: Sql,
  campaign: string,
  states: readonly string[],
): Promise<void> {
  await sql`delete from looked_at
    where campaign_id = ${campaign} and state = any (${[...states]}::text[])`;
}
