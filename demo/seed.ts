/** Fills an empty data folder with the garden's demo, once. */
import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import { DateTime } from "luxon";
import { chance } from "#core/random.ts";
import { didOnce, type Rule } from "#core/rules/index.ts";
import { shipTemplates } from "#server/campaigns/shipped.ts";
import { projectRoot } from "#server/root.ts";
import type { Services } from "#server/services.ts";
import { addSourceAt } from "#server/sources/adding.ts";
import { readSource } from "#server/sources/reading.ts";
import { CALENDAR_ADDRESS } from "#server/standins/calendar.ts";
import { SHOP_ADDRESS, SHOP_STOCK_ADDRESS } from "#server/standins/shop.ts";
import { addList, addSegment } from "#server/store/audience.ts";
import { addContacts } from "#server/store/contacts.ts";
import { addFields, addTable } from "#server/store/fields.ts";
import { addFolder } from "#server/store/picture-folders.ts";
import { savePicture, sayOfPicture } from "#server/store/pictures.ts";
import { addRecords } from "#server/store/records.ts";
import { saveSetting } from "#server/store/settings.ts";
import { setStockAddress } from "#server/store/sources.ts";
import { addMember } from "#server/store/team.ts";
import { seedCampaigns } from "./campaigns.ts";
import { FIELDS, makeContacts, RECORDS, TABLES } from "./contacts.ts";
import { type DemoPictures, GARDEN_THEME } from "./emails/index.ts";
import { seedLibrary } from "./library.ts";
import { seedTopics } from "./topics.ts";

const ZONE = "Europe/London";

const test = (field: string, op: string, argument: unknown): Rule =>
  ({ type: "field", field, op, argument }) as Rule;

const SEGMENTS: readonly { name: string; rule: Rule }[] = [
  { name: "Near Saltmere", rule: test("site", "isRecord", 2) },
  { name: "New this season", rule: test("joined", "withinLast", 90) },
  {
    name: "Often here",
    rule: {
      type: "all",
      rules: [
        test("visits", "above", 6),
        {
          type: "any",
          rules: [test("membership", "is", "Friend"), test("membership", "is", "Patron")],
        },
      ],
    },
  },
  { name: "Birthday this week", rule: test("birthday", "anniversaryWithin", 7) },
  {
    name: "Bought seeds, not the walks",
    rule: {
      type: "all",
      rules: [
        { ...didOnce("bought", 365), group: "Seeds" },
        { type: "none", rules: [test("interests", "includes", ["Guided walks"])] },
      ],
    },
  },
  {
    name: "An hour from Larkmoor Hill",
    rule: test("home", "within", { lat: 53.41, lon: -1.83, km: 60, name: "Larkmoor Hill" }),
  },
];

/** What the garden's people say of their images. */
const PICTURES = {
  "brook-walk": {
    ...{ alt: "The brook below the rock garden", labels: ["spring", "walks"], outdoors: true },
  },
  "early-flowers": {
    ...{ alt: "Early flowers beside the path", labels: ["flowers", "spring"], outdoors: true },
  },
  glasshouse: {
    ...{ alt: "The great glasshouse in the morning sun", labels: ["members"], outdoors: true },
  },
  // Nobody has said what it shows yet.
  "seed-packets": { alt: "", labels: ["shop"], outdoors: false },
};

async function addPictures(services: Pick<Services, "database" | "pictures" | "clock">) {
  const drawings = join(projectRoot(), "demo/pictures");
  const ids: Record<string, string> = {};
  for (const file of (await readdir(drawings)).sort()) {
    const name = file.replace(/\.svg$/, "");
    const picture = await services.pictures.add(await readFile(join(drawings, file)), name);
    await savePicture(services.database.sql, picture, services.clock.now());
    ids[name] = picture.id;
  }
  const { sql } = services.database;
  const folder = await addFolder(sql, "The garden", services.clock.now());
  for (const [name, { alt, labels, outdoors }] of Object.entries(PICTURES)) {
    const said = { alt, labels, folder: outdoors ? folder : null };
    if (!(await sayOfPicture(sql, ids[name]!, said))) throw new Error(`No picture ${name}`);
  }
  return ids as DemoPictures;
}

/** Who sends in the demo. */
export const GARDEN = {
  brandName: "Larkmoor Botanic Garden",
  postalAddress: "Larkmoor Botanic Garden\nBrook Lane 7\nLarkmoor LK4 2BG",
  fromName: "Larkmoor Botanic Garden",
  fromAddress: "news@larkmoor.example",
  replyTo: "hello@larkmoor.example",
  language: "en-GB",
  zone: ZONE,
} as const;

/** The notebook's articles, the shop's products and the walks are there from the beginning. */
async function seedSources(services: Omit<Services, "wake" | "mailer">): Promise<void> {
  for (const [kind, address] of [
    ["feed", "https://notebook.larkmoor.example/"],
    ["catalogue", SHOP_ADDRESS],
    ["calendar", CALENDAR_ADDRESS],
  ] as const) {
    const added = await addSourceAt(services, kind, address);
    if ("problem" in added) throw new Error(added.problem);
    if (kind === "catalogue") {
      await setStockAddress(services.database.sql, added.id, SHOP_STOCK_ADDRESS);
    }
    await readSource(services, added.id);
  }
}

/** Seeds the demo unless there is something in the data folder already. */
export async function seedDemo(
  services: Omit<Services, "wake" | "mailer">,
  progress: (line: string) => void,
): Promise<void> {
  const { database, clock } = services;
  const { sql } = database;
  if ((await sql`select 1 from members limit 1`).length > 0) return;
  const now = clock.now();
  const local = DateTime.fromJSDate(now, { zone: ZONE });

  progress("seeding the demo: the garden, its people and pictures");
  const designer = await addMember(
    sql,
    { name: "Ines Calloway", email: "ines@larkmoor.example", role: "designer" },
    now,
  );
  await saveSetting(sql, "sender", GARDEN);
  await saveSetting(sql, "theme", GARDEN_THEME);
  for (const { id, name, fields } of TABLES) {
    await addTable(sql, id, name, now);
    await addFields(sql, fields, id);
    const known = new Map(fields.map((field) => [field.id, field]));
    await addRecords(sql, id, known, RECORDS[id]!, now);
  }
  await addFields(sql, FIELDS);
  const contacts = makeContacts(now);
  const ids = await addContacts(sql, contacts);

  const luck = chance(11);
  const those = (keep: (values: (typeof contacts)[number]["values"], i: number) => boolean) =>
    ids.filter((_, i) => keep(contacts[i]!.values, i));
  const newsletter = await addList(
    sql,
    "Newsletter",
    those((_, i) => i === 0 || luck.is(0.93)),
    now,
  );
  const friends = await addList(
    sql,
    "Friends and Patrons",
    those((values) => values.membership !== "Visitor"),
    now,
  );
  const volunteers = await addList(
    sql,
    "Volunteers",
    those((values) => values.visits !== undefined && luck.is(0.09)),
    now,
  );
  for (const { name, rule } of SEGMENTS) await addSegment(sql, name, rule, now);

  const [news] = await seedTopics(sql, newsletter, now);

  progress("seeding the demo: campaigns and results");
  const pictures = await addPictures(services);
  const { roll } = await seedLibrary(sql, local, pictures);

  await shipTemplates(database, now, {
    field: { picture: pictures["early-flowers"], alt: "Early white flowers along the brook" },
    path: { picture: pictures["brook-walk"], alt: "The path along the brook" },
    house: { picture: pictures.glasshouse, alt: "The glasshouse in the evening" },
    goods: { picture: pictures["seed-packets"], alt: "Three seed packets" },
  });

  await seedSources(services);
  await seedCampaigns(services, {
    now,
    local,
    member: designer.id,
    pictures,
    roll,
    lists: { newsletter, friends, volunteers },
    topic: news!,
  });
}
