/** Contacts that probably are one person: the same mailbox by another spelling. Merging them, with a choice. */
import type { Fields, Values } from "#core/fields/index.ts";
import { LIMITS } from "#core/limits.ts";
import type { Sql } from "../db/database.ts";
import { type Contact, changeValues, contactColumns } from "./contacts.ts";

/** Groups of contacts whose addresses differ in nothing but case and accents, each by who was added first. */
export async function findDuplicates(sql: Sql, fields: Fields): Promise<Contact[][]> {
  const rows = await sql<Contact & { group: string }>`
    select c.email_folded as "group", ${contactColumns(fields)} from contacts c
    where c.email_folded in (
      select email_folded from contacts group by email_folded having count(*) > 1
      order by email_folded limit ${LIMITS.duplicates})
    order by c.email_folded, c.id`;
  const groups = new Map<string, Contact[]>();
  for (const { group, ...contact } of rows) {
    groups.set(group, [...(groups.get(group) ?? []), contact]);
  }
  return [...groups.values()];
}

/**
 * Makes one contact of several: the kept one gets these values, and the lists, the events, the choices and
 * consents of the others. Sendings of one launch to both stay with the kept one once. Use in a transaction.
 */
export async function mergeContacts(
  sql: Sql,
  kept: number,
  others: readonly number[],
  values: Values,
): Promise<void> {
  const gone = others.filter((id) => id !== kept);
  await changeValues(sql, kept, values);
  await sql`insert into list_members (list_id, contact_id)
    select distinct list_id, ${kept}::bigint from list_members where contact_id = any (${gone}::bigint[])
    on conflict do nothing`;
  await sql`insert into topic_choices (contact_id, topic_id, wants, at)
    select distinct on (topic_id) ${kept}::bigint, topic_id, wants, at from topic_choices
    where contact_id = any (${gone}::bigint[]) order by topic_id, at desc
    on conflict (contact_id, topic_id) do update set wants = excluded.wants, at = excluded.at
      where excluded.at > topic_choices.at`;
  await sql`update consents set contact_id = ${kept} where contact_id = any (${gone}::bigint[])`;
  await sql`update events set contact_id = ${kept} where contact_id = any (${gone}::bigint[])`;
  await sql`update recipients r set contact_id = ${kept}
    where r.id in (select min(o.id) from recipients o where o.contact_id = any (${gone}::bigint[])
      group by o.launch_id)
      and not exists (select 1 from recipients k
        where k.launch_id = r.launch_id and k.contact_id = ${kept})`;
  await sql`delete from contacts where id = any (${gone}::bigint[])`;
}
