/** Messages the outbox was handed. */
import { promisify } from "node:util";
import { deflateRaw, inflateRaw } from "node:zlib";
import { LIMITS } from "#core/limits.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";

const deflate = promisify(deflateRaw);
const inflate = promisify(inflateRaw);

export interface OutboxMessage {
  readonly id: number;
  readonly at: Date;
  readonly from: string;
  readonly to: string;
  readonly subject: string;
  readonly messageId: string;
  readonly outcome: "accepted" | "refused" | "deferred";
  readonly bytes: number;
}

export async function keepMessage(
  sql: Sql,
  message: Omit<OutboxMessage, "id" | "bytes"> & { source: Buffer | null },
): Promise<void> {
  const source = message.source && (await deflate(message.source));
  await sql`insert into outbox_messages
      (at, from_address, to_address, subject, message_id, outcome, bytes, source)
    values (${message.at}, ${message.from}, ${message.to}, ${message.subject}, ${message.messageId},
      ${message.outcome}, ${message.source?.length ?? 0}, ${source})`;
}

/** A page of messages, newest first; `search` looks in addresses and subjects. */
export async function pageOfMessages(
  sql: Sql,
  search: string,
  page: number,
): Promise<{ messages: OutboxMessage[]; total: number }> {
  const like = `%${search.trim().replace(/[\\%_]/g, "\\$&")}%`;
  const total = first(
    await sql<{ n: number }>`select count(*)::int as n from outbox_messages
      where to_address ilike ${like} or subject ilike ${like}`,
  )!.n;
  const messages = await sql<OutboxMessage>`
    select id, at, from_address as "from", to_address as "to", subject, message_id as "messageId",
      outcome, bytes
    from outbox_messages where to_address ilike ${like} or subject ilike ${like}
    order by id desc limit ${LIMITS.outboxPerPage} offset ${(page - 1) * LIMITS.outboxPerPage}`;
  return { messages, total };
}

/** The source of a message (RFC 5322), or null when there is none. */
export async function messageSource(sql: Sql, id: number): Promise<Buffer | null> {
  const row = first(
    await sql<{ source: Uint8Array | null }>`select source from outbox_messages where id = ${id}`,
  );
  return row?.source ? inflate(row.source) : null;
}

/** Which of these message ids were accepted. */
export async function acceptedIds(sql: Sql, messageIds: readonly string[]): Promise<Set<string>> {
  const rows = await sql<{ message_id: string }>`
    select message_id from outbox_messages where outcome = 'accepted'
      and message_id in (select jsonb_array_elements_text(${jsonb(messageIds)}))`;
  return new Set(rows.map((row) => row.message_id));
}

/** Removes old messages, at most so many; gives how many. */
export const oldMessages = async (sql: Sql, before: Date, most: number): Promise<number> =>
  (
    await sql`delete from outbox_messages where id in (
      select id from outbox_messages where at < ${before} order by id limit ${most}) returning id`
  ).length;

/** Takes the messages that nobody has read yet, the oldest first, and marks them as read; gives their ids. */
export const takeUnread = async (sql: Sql, most: number): Promise<number[]> =>
  (
    await sql<{ id: number }>`update outbox_messages set read = true where id in (
      select id from outbox_messages where not read and outcome = 'accepted' order by id limit ${most}) returning id`
  ).map(({ id }) => id);

/** How many messages nobody has read yet. */
export const countUnread = async (sql: Sql): Promise<number> =>
  first(
    await sql<{ n: number }>`select count(*)::int as n from outbox_messages
      where not read and outcome = 'accepted'`,
  )!.n;
