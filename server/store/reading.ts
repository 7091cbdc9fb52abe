/** What readers do with a message, written down as it comes in; what machines do is kept apart. */
import { isScan, type Machine, machineIn, type Signal } from "#core/delivery/machines.ts";
import { LIMITS } from "#core/limits.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import type { Recipient } from "./launches/progress.ts";

export type ReaderEvent = "opened" | "clicked" | "unsubscribed";

interface Event {
  readonly kind: ReaderEvent;
  readonly recipient: Pick<Recipient, "id" | "launchId" | "contactId">;
  readonly at: Date;
  readonly link?: number | null;
  readonly machine?: Machine | null;
}

export async function recordEvent(
  sql: Sql,
  { kind, recipient, at, link = null, machine = null }: Event,
): Promise<void> {
  const data = machine === null ? {} : { machine };
  await sql`insert into events (kind, at, contact_id, launch_id, campaign_id, recipient_id, link, machine, data)
    select ${kind}::text, ${at}::timestamptz, ${recipient.contactId}::bigint, l.id, l.campaign_id,
      ${recipient.id}::bigint, ${link}::int, ${machine !== null}, ${jsonb(data)}
    from launches l where l.id = ${recipient.launchId}`;
}

/** Writes an open or a click down, as a person's or a machine's. */
export async function recordReading(
  sql: Sql,
  kind: "opened" | "clicked",
  recipient: Recipient,
  at: Date,
  signal: Omit<Signal, "sinceMs">,
  link: number | null = null,
): Promise<void> {
  if (recipient.uncounted) return;
  const { handedAt } = recipient;
  const sinceMs = handedAt === null ? null : at.getTime() - handedAt.getTime();
  const machine = machineIn({ ...signal, sinceMs });
  await recordEvent(sql, { kind, recipient, at, link, machine });
  if (link !== null) await tellScans(sql, recipient.id, at);
}

/** Whether somebody has said that what they do is not to be counted. */
export const isUncounted = async (sql: Sql, contact: number | null): Promise<boolean> =>
  contact !== null &&
  (first(await sql<{ uncounted: boolean }>`select uncounted from contacts where id = ${contact}`)
    ?.uncounted ??
    false);

export const setUncounted = async (sql: Sql, contact: number, uncounted: boolean): Promise<void> =>
  void (await sql`update contacts set uncounted = ${uncounted} where id = ${contact}`);

/** What follows many links of a message at once is a scanner: what it did in that moment is taken from the people. */
async function tellScans(sql: Sql, recipient: number, at: Date): Promise<void> {
  const from = new Date(at.getTime() - LIMITS.scanMs);
  const { links } = first(
    await sql<{ links: number }>`select count(distinct link)::int as links from events
      where recipient_id = ${recipient} and kind = 'clicked' and at > ${from} and at <= ${at}`,
  )!;
  if (!isScan(links)) return;
  await sql`update events set machine = true, data = data || '{"machine": "links"}'::jsonb
    where recipient_id = ${recipient} and kind in ('opened', 'clicked') and not machine
      and at > ${from} and at <= ${at}`;
}
