/** Erasing a person, and the copy of everything that is known of one (GDPR, articles 15, 17 and 20). */

import { randomBytes } from "node:crypto";
import { foldAddress } from "#core/fields/index.ts";
import { constantSql, fragment, type Sql as SqlPiece } from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import { getContact } from "./contacts.ts";
import { enqueue } from "./jobs.ts";
import { consentsOf } from "./topics.ts";

/**
 * Removes a person and everything that names them. What happened stays in the counts, without them. Who was held
 * back stays held back, by a mark from which the address cannot be read. Use in a transaction.
 */
export async function eraseContact(sql: Sql, id: number, now: Date): Promise<void> {
  const contact = await getContact(sql, id);
  if (!contact) return;
  const folded = foldAddress(contact.email);
  await sql`update recipients set email = '', values = '{}', bits = '', reply = null,
      state = case when state in ('waiting', 'deferred', 'claimed') then 'held' else state end
    where contact_id = ${id}`;
  await sql`update events set data = '{}' where contact_id = ${id}`;
  await sql`delete from outbox_messages where lower(to_address) = lower(${contact.email})`;
  await sql`delete from signups where email = ${contact.email}`;
  // Rows of files that were refused are many: they are looked through piece by piece.
  await enqueue(sql, "forget", { email: contact.email }, now);
  const salt = await erasureSalt(sql);
  await sql`update suppressions set email_folded = ${markSql(fragment`${folded}::text`, salt)}
    where email_folded = ${folded}`;
  await sql`delete from import_changes where row_id = ${id}
    and import_id in (select id from imports where table_id = 'contacts')`;
  await sql`delete from contacts where id = ${id}`;
}

/** Made once, so that marks cannot be guessed from addresses without it. */
async function erasureSalt(sql: Sql): Promise<string> {
  const fresh = jsonb(randomBytes(32).toString("base64url"));
  await sql`insert into settings (key, value) values ('erasure', ${fresh}) on conflict do nothing`;
  return first(await sql<{ value: string }>`select value from settings where key = 'erasure'`)!
    .value;
}

/** What an erased address is held back by. */
const markSql = (folded: SqlPiece, salt: string): SqlPiece =>
  fragment`'erased:' || encode(sha256(convert_to(${salt}::text || ${folded}, 'UTF8')), 'hex')`;

/** Who was erased while held back and is added again is held back again. Call it with the ids of people added. */
export async function recallErased(sql: Sql, added: readonly number[]): Promise<void> {
  if (added.length === 0) return;
  const marks = await sql`select 1 from suppressions where email_folded like 'erased:%' limit 1`;
  if (marks.length === 0) return;
  const salt = await erasureSalt(sql);
  await sql`
    with known as (
      update suppressions s set email_folded = c.email_folded
      from (select distinct email_folded from contacts
        where id = any (${[...added]}::bigint[]) and held is null) c
      where s.email_folded = ${markSql(constantSql("c.email_folded"), salt)}
      returning s.email_folded, s.reason
    )
    update contacts c set held = known.reason from known where c.email_folded = known.email_folded`;
}

/** Everything that is known of a person, as data to be handed over. */
export async function copyOfData(sql: Sql, id: number): Promise<Record<string, unknown> | null> {
  const contact = await getContact(sql, id);
  if (!contact) return null;
  return {
    email: contact.email,
    added: contact.added,
    heldBack: contact.heldBack,
    values: contact.values,
    lists: (
      await sql<{ name: string }>`select l.name from list_members m join lists l on l.id = m.list_id
        where m.contact_id = ${id} order by l.name`
    ).map(({ name }) => name),
    topics: await sql`select t.name, c.wants, c.at from topic_choices c
      join topics t on t.id = c.topic_id where c.contact_id = ${id} order by c.at`,
    consents: await consentsOf(sql, id),
    events: await sql`select e.kind, e.at, k.name as campaign, e.link, e.item, e.class, e.data
      from events e left join campaigns k on k.id = e.campaign_id
      where e.contact_id = ${id} order by e.at, e.id`,
    messages: await sql`select k.name as campaign, r.email, r.state, r.values, r.settled_at as at
      from recipients r join launches l on l.id = r.launch_id join campaigns k on k.id = l.campaign_id
      where r.contact_id = ${id} order by r.id`,
  };
}
