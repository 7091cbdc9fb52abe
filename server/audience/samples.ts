/** Twenty people who are nobody: to compose and try with before the real ones are there. */
import type { Database } from "../db/database.ts";
import { addList } from "../store/audience.ts";
import { addContacts } from "../store/contacts.ts";
import { addFields, getFields } from "../store/fields.ts";
import { countOfDomain, removeDomain } from "../store/samples.ts";

/** Addresses of a domain that never delivers (RFC 2606). */
const DOMAIN = "samples.example";
const LIST = "Samples";

const NAMES =
  "Amara Osei, Bruno Lindqvist, Celia Marsh, Dario Fonte, Edda Kral, Farid Nouri, Greta Holm, Hugo Tessier, Ines Varga, Jonas Feld, Kaya Demir, Liam Orr, Mona Salo, Nils Brandt, Olga Petra, Pia Keller, Quentin Abel, Rosa Mendes, Sami Aalto, Tilda Voss";
const CITIES = ["Northwick", "Saltmere", "Hollin", "Ferry Cross"];

const people = NAMES.split(", ").map((name, i) => {
  const [first, last] = name.split(" ") as [string, string];
  return {
    email: `${first}.${last}@${DOMAIN}`.toLowerCase(),
    values: { first_name: first, last_name: last, city: CITIES[i % CITIES.length]! },
  };
});

const FIELDS = [
  { id: "first_name", label: "First name", type: "text" },
  { id: "last_name", label: "Last name", type: "text" },
  { id: "city", label: "City", type: "text" },
] as const;

/** Puts the samples in, with a list of them and the fields they have. Those that are there already are made anew. */
export async function addSamples({ tx }: Database, now: Date): Promise<void> {
  await tx(async (sql) => {
    const before = await getFields(sql);
    await addFields(
      sql,
      FIELDS.filter(({ id }) => !before.has(id)),
    );
    // A field of the same name that holds something else is left empty.
    const known = await getFields(sql);
    const fitting = FIELDS.filter(({ id }) => known.get(id)?.type === "text").map(({ id }) => id);
    await removeDomain(sql, DOMAIN, LIST);
    const ids = await addContacts(
      sql,
      people.map(({ email, values }) => ({
        email,
        values: Object.fromEntries(fitting.map((id) => [id, values[id]])),
        createdAt: now,
      })),
    );
    await addList(sql, LIST, ids, now);
  });
}

/** Takes the samples out again; gives how many there were. */
export const removeSamples = ({ tx }: Database): Promise<number> =>
  tx((sql) => removeDomain(sql, DOMAIN, LIST));

/** How many samples are there. */
export const countSamples = ({ sql }: Database): Promise<number> => countOfDomain(sql, DOMAIN);
