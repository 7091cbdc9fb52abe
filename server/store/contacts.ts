/** Contacts and their fields. */
import type { Json } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import type { Reader } from "#core/merge/index.ts";
import { type Field, type Fields, fold, foldedValues } from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";

export interface Contact {
  readonly id: number;
  readonly email: string;
  readonly values: Record<string, Json>;
  readonly heldBack: "unsubscribed" | "bounced" | null;
}

export async function getFields(sql: Sql): Promise<Fields> {
  const rows = await sql<Field>`select id, label, type, options from fields order by position`;
  return new Map(rows.map((field) => [field.id, field]));
}

export async function addFields(sql: Sql, fields: readonly Field[]): Promise<void> {
  for (const [position, field] of fields.entries()) {
    await sql`insert into fields (id, label, type, options, position)
      values (${field.id}, ${field.label}, ${field.type}, ${JSON.stringify(field.options ?? [])}::jsonb, ${position})`;
  }
}

export interface NewContact {
  readonly email: string;
  readonly values: Record<string, Json>;
  readonly createdAt: Date;
}

/** Adds contacts in one statement and gives their ids in the same order. Known addresses are refused. */
export async function addContacts(sql: Sql, contacts: readonly NewContact[]): Promise<number[]> {
  const rows = contacts.map((contact, i) => ({
    i,
    email: contact.email,
    email_folded: fold(contact.email),
    values: contact.values,
    folded: foldedValues(contact.values),
    created_at: contact.createdAt.toISOString(),
  }));
  const ids = await sql<{ id: number }>`
    insert into contacts (email, email_folded, values, folded, created_at)
    select r.email, r.email_folded, r.values, r.folded, r.created_at
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb)
      as r(i int, email text, email_folded text, values jsonb, folded jsonb, created_at timestamptz)
    order by r.i returning id`;
  return ids.map((row) => row.id);
}

/** A page of contacts by address, those that match the search. `page` counts from 1. */
export async function pageOfContacts(
  sql: Sql,
  search: string,
  page: number,
): Promise<{ contacts: Contact[]; total: number }> {
  const like = `%${fold(search.trim()).replace(/[\\%_]/g, "\\$&")}%`;
  const total = first(
    await sql<{ n: number }>`
      select count(*)::int as n from contacts c
      where c.email_folded like ${like} or c.folded::text like ${like}`,
  )!.n;
  const contacts = await sql<Contact>`
    select c.id, c.email, c.values, s.reason as "heldBack"
    from contacts c left join suppressions s on s.email_folded = c.email_folded
    where c.email_folded like ${like} or c.folded::text like ${like}
    order by c.email_folded limit ${LIMITS.contactsPerPage} offset ${(page - 1) * LIMITS.contactsPerPage}`;
  return { contacts, total };
}

export async function getContact(sql: Sql, id: number): Promise<Contact | null> {
  return first(
    await sql<Contact>`
      select c.id, c.email, c.values, s.reason as "heldBack"
      from contacts c left join suppressions s on s.email_folded = c.email_folded
      where c.id = ${id}`,
  );
}

/** The first contact, or the one after or before another, by id. */
export async function stepContact(
  sql: Sql,
  from: number | null,
  direction: "next" | "previous",
): Promise<Contact | null> {
  const row = first(
    from === null
      ? await sql<{ id: number }>`select id from contacts order by id limit 1`
      : direction === "next"
        ? await sql<{ id: number }>`select id from contacts where id > ${from} order by id limit 1`
        : await sql<{
            id: number;
          }>`select id from contacts where id < ${from} order by id desc limit 1`,
  );
  return row && getContact(sql, row.id);
}

/** Contacts whose address or values match, for choosing whose eyes to look through. */
export async function findContacts(sql: Sql, search: string, limit = 8): Promise<Contact[]> {
  const { contacts } = await pageOfContacts(sql, search, 1);
  return contacts.slice(0, limit);
}

/** A contact as a reader of a message. */
export function readerOf(contact: Pick<Contact, "email" | "values"> | null, token = ""): Reader {
  const values: Record<string, Json> = {};
  if (contact) {
    values["contact:email"] = contact.email;
    for (const [field, value] of Object.entries(contact.values)) values[`contact:${field}`] = value;
  }
  return { values, token };
}

/** Puts an address on the list of those that get nothing. The first reason stays. */
export async function suppress(
  sql: Sql,
  email: string,
  reason: "unsubscribed" | "bounced",
  at: Date,
): Promise<void> {
  await sql`insert into suppressions (email_folded, reason, at)
    values (${fold(email)}, ${reason}, ${at}) on conflict do nothing`;
}
