/** Contacts: the people emails are for. */
import {
  type Fields,
  fold,
  foldAddress,
  type MailAddress,
  readAddress,
  type Values,
} from "#core/fields/index.ts";
import type { Json } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { constantSql, fragment, type Sql as SqlPiece } from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import {
  assignmentsOf,
  columnNames,
  columnsFrom,
  columnTypes,
  rowOf,
  searchSql,
  valuesSql,
} from "./columns.ts";
import { getFields, getSchema } from "./fields.ts";
import type { Reason } from "./suppressions.ts";
import { allPaths, tagValuesSql } from "./tag-values.ts";

export interface Contact {
  readonly id: number;
  readonly email: string;
  readonly values: Record<string, Json>;
  readonly heldBack: Reason | null;
  /** The day they were added (ISO, UTC). */
  readonly added: string;
}

export interface NewContact {
  readonly email: string;
  readonly values: Values;
  readonly createdAt: Date;
}

const isoDay = (date: Date) => date.toISOString().slice(0, 10);

/** A row of the contacts table, but for the values of fields. */
const addressRow = ({ address, key, folded }: MailAddress) => ({
  email: address,
  email_key: key,
  email_folded: folded,
});

/**
 * Adds contacts in one statement and gives their ids in the same order. Throws where something is no mail
 * address, and a DatabaseError (23505) where one is known.
 */
export async function addContacts(sql: Sql, contacts: readonly NewContact[]): Promise<number[]> {
  const fields = await getFields(sql);
  const rows = contacts.map((contact, i) => {
    const address = readAddress(contact.email);
    if (!address) throw new Error(`Not a mail address: ${contact.email}`);
    return {
      i,
      ...addressRow(address),
      added: isoDay(contact.createdAt),
      created_at: contact.createdAt.toISOString(),
      ...rowOf(contact.values, fields),
    };
  });
  const ids = await sql<{ id: number }>`
    insert into contacts (email, email_key, email_folded, added, created_at, held${columnNames(fields)})
    select r.email, r.email_key, r.email_folded, r.added, r.created_at, s.reason${columnsFrom(fields, "r")}
    from jsonb_to_recordset(${jsonb(rows)})
      as r(i int, email text, email_key text, email_folded text, added text,
        created_at timestamptz${columnTypes(fields)})
    left join suppressions s on s.email_folded = r.email_folded
    order by r.i returning id`;
  return ids.map((row) => row.id);
}

/** What is read of a contact named `c`. */
export const contactColumns = (fields: Fields) =>
  fragment`c.id, c.email, ${valuesSql(fields, "c")} as values, c.held as "heldBack", c.added`;

/** All texts of a contact named `c`, as they are searched. */
const textsSql = (fields: Fields) => searchSql(fields, "c", "email_folded");

/** Whether every one of these words begins a word of a contact named `c`, in whatever field. */
export function searchCondition(fields: Fields, search: string) {
  if (search.trim() === "") return constantSql("true");
  const query = fragment`folded_query(${fold(search)}::text)`;
  // Who was written a moment ago has no words gathered yet.
  return fragment`(c.words @@ ${query}
    or (c.words is null and folded_words(${textsSql(fields)}) @@ ${query}))`;
}

/** Gathers the words of some contacts who have none yet; gives how many there were. */
export async function gatherWords(sql: Sql, most: number): Promise<number> {
  // Most of the time there is nothing to do, and that is asked cheaply.
  const [waiting] = await sql`select 1 from contacts where words is null limit 1`;
  if (!waiting) return 0;
  const fields = await getFields(sql);
  const done = await sql`update contacts c set words = folded_words(${textsSql(fields)})
    where c.id in (select id from contacts where words is null order by id limit ${most}) returning 1`;
  return done.length;
}

export async function getContact(sql: Sql, id: number): Promise<Contact | null> {
  const fields = await getFields(sql);
  return first(
    await sql<Contact>`select ${contactColumns(fields)} from contacts c where c.id = ${id}`,
  );
}

export async function getContacts(
  sql: Sql,
  fields: Fields,
  ids: readonly number[],
): Promise<Contact[]> {
  return sql<Contact>`select ${contactColumns(fields)}
    from unnest(${[...ids]}::bigint[]) with ordinality o(id, n) join contacts c on c.id = o.id
    order by o.n`;
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
        : await sql<{ id: number }>`
            select id from contacts where id < ${from} order by id desc limit 1`,
  );
  return row && getContact(sql, row.id);
}

/** Contacts whose address or values match, for choosing one. */
export async function findContacts(sql: Sql, search: string, limit = 8): Promise<Contact[]> {
  const fields = await getFields(sql);
  return sql<Contact>`select ${contactColumns(fields)} from contacts c
    where ${searchCondition(fields, search)} order by c.email_folded limit ${limit}`;
}

/** A contact by an address that is the same by the standards. */
export async function contactByAddress(sql: Sql, address: MailAddress): Promise<Contact | null> {
  const row = first(
    await sql<{
      id: number;
    }>`select id from contacts where email_folded = ${address.folded} and email_key = ${address.key}`,
  );
  return row && getContact(sql, row.id);
}

/** Changes values of a contact; null takes one away. Values that are not of their field's type are none. */
export async function changeValues(sql: Sql, id: number, values: Values): Promise<void> {
  const fields = await getFields(sql);
  const sets = assignmentsOf(values, fields);
  if (sets) await sql`update contacts c set ${sets} where c.id = ${id}`;
}

/** Gives a contact another address. Throws a DatabaseError (23505) where somebody has it. */
export async function changeAddress(sql: Sql, id: number, address: MailAddress): Promise<void> {
  await sql`update contacts set email = ${address.address}, email_key = ${address.key},
      email_folded = ${address.folded},
      held = (select reason from suppressions where email_folded = ${address.folded})
    where id = ${id}`;
}

/** Everything the tags of an email can say of contacts, by their ids; records they point to included. */
export async function tagValues(
  sql: Sql,
  contacts: readonly number[],
): Promise<Map<number, Record<string, Json>>> {
  const schema = await getSchema(sql);
  const paths = ["email", "added", ...allPaths(schema).map(({ path }) => path)];
  const refs = paths.map((path) => `contact:${path}`);
  const rows = await sql<{ id: number; values: Record<string, Json> }>`
    select c.id, ${tagValuesSql(refs, schema, "c")} as values
    from contacts c where c.id = any (${[...contacts]}::bigint[])`;
  return new Map(rows.map(({ id, values }) => [id, values]));
}

/** The values of these tags for those within `among` (a condition on a contact `c`), at most so many of them. */
export const readerValues = async (
  sql: Sql,
  among: SqlPiece,
  refs: readonly string[],
  most: number,
): Promise<{ id: number; values: Record<string, Json> }[]> =>
  sql`select c.id, ${tagValuesSql(refs, await getSchema(sql), "c")} as values
    from contacts c where ${among} order by c.id limit ${most}`;

/** What those get who bring no values. */
export async function standardValues(sql: Sql): Promise<Values> {
  const values: Record<string, Json> = {};
  for (const field of (await getFields(sql)).values()) {
    if (field.standard !== null && field.standard !== undefined) values[field.id] = field.standard;
  }
  return values;
}

/** Addresses among these that a contact has, without regard to case. */
export const knownAddresses = async (sql: Sql, addresses: readonly string[]): Promise<string[]> =>
  (
    await sql<{ email: string }>`select email from contacts
      where email_folded = any (${addresses.map(foldAddress)}::text[])
      limit ${LIMITS.contactsPerPage}`
  ).map(({ email }) => email);
