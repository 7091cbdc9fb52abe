/**
 * Leases: who works on something holds a token, which lasts as long as signs of life come. What belongs to a
 * token that has run out may be taken up by anybody.
 */
import { LIMITS } from "#core/limits.ts";
import type { Sql } from "../db/database.ts";
import { newId } from "../ids.ts";

const until = (now: Date) => new Date(now.getTime() + LIMITS.leaseMs);

export async function takeLease(sql: Sql, now: Date): Promise<string> {
  const token = newId();
  await sql`insert into leases (token, until) values (${token}, ${until(now)})`;
  return token;
}

export async function renewLease(sql: Sql, token: string, now: Date): Promise<void> {
  await sql`insert into leases (token, until) values (${token}, ${until(now)})
    on conflict (token) do update set until = excluded.until`;
}

export async function endLease(sql: Sql, token: string): Promise<void> {
  await sql`delete from leases where token = ${token}`;
}

/** Ends all: whoever holds the data folder knows that nobody else is alive. */
export async function endLeases(sql: Sql): Promise<void> {
  await sql`delete from leases`;
}
