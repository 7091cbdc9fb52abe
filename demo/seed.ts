/** Fills an empty data folder with the garden's demo, once. */
import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import { DateTime } from "luxon";
import type { Rule } from "#core/rules/index.ts";
import { surroundings } from "#server/emails.ts";
import { projectRoot } from "#server/root.ts";
import type { Services } from "#server/services.ts";
import { addList, addSegment } from "#server/store/audience.ts";
import { createCampaign, createTemplate } from "#server/store/campaigns.ts";
import { addContacts, addFields } from "#server/store/contacts.ts";
import { enqueue } from "#server/store/jobs.ts";
import { createLaunch } from "#server/store/launches.ts";
import { savePicture } from "#server/store/pictures.ts";
import { saveSetting } from "#server/store/settings.ts";
import { addMember } from "#server/store/team.ts";
import { FIELDS, makeContacts } from "./contacts.ts";
import {
  calmNewsletter,
  type DemoPictures,
  GARDEN_THEME,
  monthlyNewsletter,
  notebook,
  seedList,
} from "./emails/index.ts";
import { writeHistory } from "./history.ts";
import { chance } from "./random.ts";

const ZONE = "Europe/London";

const test = (field: string, op: string, argument: unknown): Rule =>
  ({ type: "field", field, op, argument }) as Rule;

const SEGMENTS: readonly { name: string; rule: Rule }[] = [
  { name: "Near Saltmere", rule: test("site", "is", "Saltmere Walled Garden") },
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
];

async function addPictures(services: Pick<Services, "database" | "pictures" | "clock">) {
  const folder = join(projectRoot(), "demo/pictures");
  const ids: Record<string, string> = {};
  for (const file of (await readdir(folder)).sort()) {
    const name = file.replace(/\.svg$/, "");
    const picture = await services.pictures.add(await readFile(join(folder, file)), name);
    await savePicture(services.database.sql, picture, services.clock.now());
    ids[name] = picture.id;
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
  zone: ZONE,
} as const;

/** Seeds the demo unless there is something in the data folder already. */
export async function seedDemo(
  services: Omit<Services, "wake" | "mailer">,
  progress: (line: string) => void,
): Promise<void> {
  const { database, clock, config } = services;
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
  await addList(
    sql,
    "Volunteers",
    those((values) => values.visits !== undefined && luck.is(0.09)),
    now,
  );
  for (const { name, rule } of SEGMENTS) await addSegment(sql, name, rule, now);

  progress("seeding the demo: campaigns and results");
  const pictures = await addPictures(services);
  const around = await surroundings(sql, config);
  const to = (id: string) => ({ include: [{ kind: "list" as const, id }], exclude: [] });
  await createTemplate(
    sql,
    {
      name: "Calm newsletter",
      about: "A masthead, an opening with a picture, two things side by side, a footer.",
      doc: calmNewsletter(),
    },
    now,
  );

  const sentAt = local
    .minus({ days: 12 })
    .set({ hour: 9, minute: 0, second: 0, millisecond: 0 })
    .toJSDate();
  const sentDoc = seedList(pictures);
  const sent = await createCampaign(
    sql,
    "Seed list for the season",
    sentDoc,
    sentAt,
    to(newsletter),
  );
  const launch = await createLaunch(
    sql,
    {
      campaignId: sent,
      sendAt: sentAt,
      zone: ZONE,
      doc: sentDoc,
      audience: to(newsletter),
      segments: [],
      surroundings: around,
      member: designer.id,
    },
    sentAt,
  );
  await sql`update launches set state = 'done', started_at = ${sentAt}, finished_at = ${sentAt}
    where id = ${launch}`;
  await writeHistory(sql, launch, sentAt, 3);

  const sendAt = local
    .plus({ days: 2 })
    .set({ hour: 9, minute: 0, second: 0, millisecond: 0 })
    .toJSDate();
  const waitingDoc = notebook(pictures);
  const waiting = await createCampaign(
    sql,
    "The gardeners’ notebook",
    waitingDoc,
    local.minus({ days: 1 }).toJSDate(),
    to(friends),
  );
  const waitingLaunch = await createLaunch(
    sql,
    {
      campaignId: waiting,
      sendAt,
      zone: ZONE,
      doc: waitingDoc,
      audience: to(friends),
      segments: [],
      surroundings: around,
      member: designer.id,
    },
    now,
  );
  await enqueue(sql, "launch", { launch: waitingLaunch }, sendAt);

  const month = local.plus({ days: 7 }).setLocale("en-GB").toFormat("LLLL");
  await createCampaign(
    sql,
    `${month} at Larkmoor`,
    monthlyNewsletter(pictures, month),
    now,
    to(newsletter),
  );
}
