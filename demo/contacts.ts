/** The garden's people: 2,400 made-up contacts at example domains. */

import type { Field } from "#core/fields/index.ts";
import type { Json } from "#core/json.ts";
import { type Chance, chance } from "#core/random.ts";
import type { NewContact } from "#server/store/contacts.ts";
import type { NewRecord } from "#server/store/records.ts";

export const CONTACTS = 2_400;

export const FIELDS: readonly Field[] = [
  { id: "first_name", label: "First name", type: "text" },
  { id: "last_name", label: "Last name", type: "text" },
  { id: "site", label: "Nearest site", type: "record", table: "sites" },
  {
    id: "membership",
    label: "Membership",
    type: "choice",
    options: ["Visitor", "Friend", "Patron"],
  },
  { id: "language", label: "Language", type: "choice", options: ["English", "French"] },
  { id: "country", label: "Country", type: "text" },
  { id: "zone", label: "Time zone", type: "zone" },
  { id: "joined", label: "Joined", type: "date" },
  { id: "visits", label: "Visits in a year", type: "number" },
  { id: "birthday", label: "Birthday", type: "date" },
  {
    id: "interests",
    label: "Interests",
    type: "choices",
    options: ["Seeds", "Workshops", "Guided walks", "Notebook", "Concerts"],
  },
  { id: "home", label: "Home", type: "place" },
  { id: "gift_aid", label: "Gift aid", type: "yesNo", standard: false },
];

/** What stands beside the people: the two sites, and who is in charge of each. */
export const TABLES: readonly { id: string; name: string; fields: readonly Field[] }[] = [
  {
    id: "wardens",
    name: "People in charge",
    fields: [
      { id: "role", label: "Role", type: "text" },
      { id: "email", label: "Mail address", type: "text" },
    ],
  },
  {
    id: "sites",
    name: "Sites",
    fields: [
      { id: "opening_hours", label: "Opening hours", type: "text" },
      { id: "address", label: "Address", type: "text" },
      { id: "manager", label: "Manager", type: "record", table: "wardens" },
      { id: "place", label: "Where", type: "place" },
      { id: "page", label: "Page", type: "web" },
    ],
  },
];
export const RECORDS: Readonly<Record<string, readonly NewRecord[]>> = {
  wardens: [
    { name: "Tamsin Orchard", values: { role: "Head gardener", email: "tamsin@larkmoor.example" } },
    { name: "Bastien Verger", values: { role: "Warden", email: "bastien@larkmoor.example" } },
  ],
  sites: [
    {
      name: "Larkmoor Hill",
      values: {
        opening_hours: "Every day, 10 to 5",
        address: "Brook Lane 7, Larkmoor LK4 2BG",
        manager: 1,
        place: { lat: 53.41, lon: -1.83, name: "Larkmoor Hill" },
        page: "https://larkmoor.example/hill",
      },
    },
    {
      name: "Saltmere Walled Garden",
      values: {
        opening_hours: "Wednesday to Sunday, 11 to 4",
        address: "Mere Road 2, Saltmere SM1 8QT",
        manager: 2,
        place: { lat: 52.93, lon: 0.41, name: "Saltmere" },
        page: "https://larkmoor.example/saltmere",
      },
    },
  ],
};
export const HILL = 1;
export const SALTMERE = 2;

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

const INTERESTS = FIELDS.find(({ id }) => id === "interests")!.options!;

/** What only some have told: birthday, interests, where they live, gift aid. */
function more(values: Record<string, Json>, luck: Chance, today: Date): void {
  if (luck.is(0.7)) values.birthday = isoDay(daysBefore(today, 6_600 + luck.below(22_000)));
  const liked = INTERESTS.filter(() => luck.is(0.3));
  if (liked.length) values.interests = liked;
  if (luck.is(0.6)) {
    // Scattered around the nearest site, most of them near.
    const [lat, lon] = values.site === HILL ? [53.41, -1.83] : [52.93, 0.41];
    const away = luck.next() ** 2;
    values.home = {
      lat: Math.round((lat + (luck.next() - 0.5) * 3 * away) * 1_000) / 1_000,
      lon: Math.round((lon + (luck.next() - 0.5) * 4 * away) * 1_000) / 1_000,
      name: "",
    };
  }
  if (luck.is(0.5)) values.gift_aid = luck.is(0.6);
}

const ZONES: Readonly<Record<string, string>> = {
  France: "Europe/Paris",
  Belgium: "Europe/Brussels",
  "United Kingdom": "Europe/London",
};

/** All contacts, dates relative to the day. The first is the one the demo opens with. */
export function makeContacts(today: Date): NewContact[] {
  const luck = chance(7);
  const extra = chance(29);
  const contacts: NewContact[] = [
    {
      email: "amelie.garnier@example.org",
      createdAt: daysBefore(today, 900),
      values: {
        first_name: "Amélie",
        last_name: "Garnier",
        site: SALTMERE,
        membership: "Friend",
        language: "French",
        country: "France",
        zone: "Europe/Paris",
        joined: isoDay(daysBefore(today, 900)),
        visits: 9,
        birthday: isoDay(daysBefore(today, 14_600)).replace(
          /\d\d-\d\d$/,
          isoDay(daysBefore(today, -3)).slice(5),
        ),
        interests: ["Seeds", "Guided walks"],
        home: { lat: 52.9, lon: 0.5, name: "Saltmere" },
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
      site: luck.is(0.62) ? HILL : SALTMERE,
      membership: roll < 0.68 ? "Visitor" : roll < 0.94 ? "Friend" : "Patron",
      language: french ? "French" : "English",
      country: french ? (luck.is(0.7) ? "France" : "Belgium") : "United Kingdom",
      joined: isoDay(daysBefore(today, days)),
    };
    if (!luck.is(0.015)) values.first_name = first;
    if (!luck.is(0.04)) values.last_name = last;
    if (!luck.is(0.25)) values.visits = Math.floor(luck.next() ** 2 * 24);
    values.zone = ZONES[values.country as string]!;
    more(values, extra, today);
    contacts.push({ email, values, createdAt: daysBefore(today, days) });
  }
  return contacts;
}
