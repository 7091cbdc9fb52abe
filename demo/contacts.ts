/** The garden's people: 2,400 made-up contacts at example domains. */
import type { Json } from "#core/json.ts";
import type { Field } from "#core/rules/index.ts";
import type { NewContact } from "#server/store/contacts.ts";
import { chance } from "./random.ts";

export const CONTACTS = 2_400;

export const FIELDS: readonly Field[] = [
  { id: "first_name", label: "First name", type: "text" },
  { id: "last_name", label: "Last name", type: "text" },
  {
    id: "site",
    label: "Nearest site",
    type: "choice",
    options: ["Larkmoor Hill", "Saltmere Walled Garden"],
  },
  {
    id: "membership",
    label: "Membership",
    type: "choice",
    options: ["Visitor", "Friend", "Patron"],
  },
  { id: "language", label: "Language", type: "choice", options: ["English", "French"] },
  { id: "country", label: "Country", type: "text" },
  { id: "joined", label: "Joined", type: "date" },
  { id: "visits", label: "Visits in a year", type: "number" },
];

const ENGLISH =
  "Ada Agnes Albie Alma Amos Bea Bram Carys Cleo Cora Daphne Dilys Edie Elfed Elsie Enid Ezra Fern Finlay Flora Freya Gwen Hal Hattie Hester Idris Iris Ivo Joss Juno Kit Lark Lena Linus Lottie Mabel Maeve Marlo Merryn Moss Nell Nia Olive Orla Otis Perran Pia Posy Rafe Rhona Robin Rowan Sable Sage Seren Silas Tamsin Tess Thora Una Vesper Wilf Wren Zora".split(
    " ",
  );
const FRENCH =
  "Aline Amélie Anaïs Aurèle Bastien Blaise Capucine Céline Clémence Corentin Élodie Élise Fleur Gaspard Honorine Inès Jolie Justine Léa Léonie Loïc Lucien Maël Manon Mathis Noé Océane Odile Pélagie Rémi Romane Solène Théo Tristan Violette Yannick Zélie".split(
    " ",
  );
const SURNAMES =
  "Ashdown Barrowby Birchall Brackenbury Calloway Coombe Dunmore Elderfield Fallow Fenwright Garthwaite Greensmith Hallowell Hartley Hawthorne Heathcote Holloway Ivers Kestle Larkin Linden Marlowe Meadows Merriman Mossop Nettleton Oakes Orchard Pennock Pellow Quillan Reedham Rushworth Sallow Sedgwick Spindler Tansy Tarn Thistlewood Underhay Vane Wetherby Whin Winterbourne Yarrow".split(
    " ",
  );
const FRENCH_SURNAMES =
  "Beaupré Bellerive Boisvert Chantereau Delafontaine Desprairies Dubosquet Garnier Lafleurie Lavigne Montjardin Pommeraye Rivault Rosier Sauvageot Tilleul Verger Vallonnet".split(
    " ",
  );
const DOMAINS = ["example.org", "example.com", "example.net"];

const plain = (text: string) =>
  text
    .normalize("NFKD")
    .replace(/[^A-Za-z]/g, "")
    .toLowerCase();
const isoDay = (date: Date) => date.toISOString().slice(0, 10);
const daysBefore = (today: Date, days: number) => new Date(today.getTime() - days * 86_400_000);

/** All contacts, dates relative to the day. The first is the one the demo opens with. */
export function makeContacts(today: Date): NewContact[] {
  const luck = chance(7);
  const contacts: NewContact[] = [
    {
      email: "amelie.garnier@example.org",
      createdAt: daysBefore(today, 900),
      values: {
        first_name: "Amélie",
        last_name: "Garnier",
        site: "Saltmere Walled Garden",
        membership: "Friend",
        language: "French",
        country: "France",
        joined: isoDay(daysBefore(today, 900)),
        visits: 9,
      },
    },
  ];
  const used = new Set(contacts.map((c) => c.email));
  while (contacts.length < CONTACTS) {
    const french = luck.is(0.2);
    const first = luck.pick(french ? FRENCH : ENGLISH);
    const last = luck.pick(french ? FRENCH_SURNAMES : SURNAMES);
    let email = `${plain(first)}.${plain(last)}@${luck.pick(DOMAINS)}`;
    // A few mailboxes that the outbox refuses, so that refusals can be seen.
    if (contacts.length % 160 === 80) email = `bounce+${plain(last)}@${luck.pick(DOMAINS)}`;
    if (used.has(email)) email = email.replace("@", `${contacts.length}@`);
    used.add(email);
    const days = luck.below(2_200);
    const roll = luck.next();
    const values: Record<string, Json> = {
      site: luck.is(0.62) ? "Larkmoor Hill" : "Saltmere Walled Garden",
      membership: roll < 0.68 ? "Visitor" : roll < 0.94 ? "Friend" : "Patron",
      language: french ? "French" : "English",
      country: french ? (luck.is(0.7) ? "France" : "Belgium") : "United Kingdom",
      joined: isoDay(daysBefore(today, days)),
    };
    if (!luck.is(0.015)) values.first_name = first;
    if (!luck.is(0.04)) values.last_name = last;
    if (!luck.is(0.25)) values.visits = Math.floor(luck.next() ** 2 * 24);
    contacts.push({ email, values, createdAt: daysBefore(today, days) });
  }
  return contacts;
}
