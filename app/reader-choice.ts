/** Contacts as choices of whose eyes to look through. */
import type { Contact } from "#server/store/contacts.ts";
import { readerOf } from "#server/store/contacts.ts";
import type { ReaderChoice } from "./compose/wire.ts";

const words = (value: unknown) => (typeof value === "string" ? value : "");

export function choiceOf(contact: Contact): ReaderChoice {
  const { first_name, last_name, membership, language, site } = contact.values;
  const name = [first_name, last_name].map(words).filter(Boolean).join(" ");
  const about = [membership, language, words(site).split(" ")[0]].map(words).filter(Boolean);
  return {
    id: contact.id,
    name: name || contact.email,
    about: about.join(" · "),
    values: readerOf(contact).values as ReaderChoice["values"],
  };
}
