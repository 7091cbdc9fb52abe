/** Contacts as choices of whose eyes to look through. */
import type { Json } from "#core/json.ts";
import type { Sql } from "#server/db/database.ts";
import { type Contact, tagValues } from "#server/store/contacts.ts";
import type { ReaderChoice } from "./compose/wire.ts";

const words = (value: unknown) => (typeof value === "string" ? value : "");

export async function choicesOf(sql: Sql, contacts: readonly Contact[]): Promise<ReaderChoice[]> {
  const values = await tagValues(
    sql,
    contacts.map(({ id }) => id),
  );
  return contacts.map((contact) => choice(contact, values.get(contact.id) ?? {}));
}

/** One contact as a choice; null for nobody. */
export const choiceOf = async (sql: Sql, contact: Contact | null): Promise<ReaderChoice | null> =>
  contact && (await choicesOf(sql, [contact]))[0]!;

function choice(contact: Contact, values: Readonly<Record<string, Json>>): ReaderChoice {
  const of = (field: string) => words(values[`contact:${field}`]);
  const name = [of("first_name"), of("last_name")].filter(Boolean).join(" ");
  const about = [of("membership"), of("language"), of("site").split(" ")[0]].filter(Boolean);
  return {
    id: contact.id,
    name: name || contact.email,
    about: about.join(" · "),
    values: values as ReaderChoice["values"],
  };
}
