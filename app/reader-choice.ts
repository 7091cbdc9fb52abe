/** Contacts as choices of whose eyes to look through. */
import type { Sql } from "#server/db/database.ts";
import { type Contact, tagValues } from "#server/store/contacts.ts";
import type { ReaderChoice } from "./compose/wire.ts";

const words = (value: unknown) => (typeof value === "string" ? value : "");

export async function choiceOf(sql: Sql, contact: Contact): Promise<ReaderChoice> {
  const values = await tagValues(sql, contact.id);
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
