import { afterAll, beforeAll, expect, it } from "vitest";
import { getLists, searchSegments } from "#server/store/audience.ts";
import { countCampaigns, listCampaigns } from "#server/store/campaigns.ts";
import { getFields } from "#server/store/fields.ts";
import { searchItems } from "#server/store/items.ts";
import { listLabels } from "#server/store/labels.ts";
import { getLaunch } from "#server/store/launches/freeze.ts";
import { searchPictures } from "#server/store/pictures.ts";
import { byHour, clicksByLink, measuresOf } from "#server/store/results.ts";
import { getSources } from "#server/store/sources.ts";
import { startTestServices, type TestServices } from "#server/testing/services.ts";
import { CONTACTS } from "./contacts.ts";
import { seedDemo } from "./seed.ts";

let services: TestServices;
beforeAll(async () => {
  services = await startTestServices();
  await seedDemo(services, () => {});
}, 60_000);
afterAll(() => services.close());

it("fills the garden: people, lists, segments, pictures", async () => {
  const { sql } = services.database;
  expect(await sql`select count(*)::int as n from contacts`).toEqual([{ n: CONTACTS }]);
  expect((await getLists(sql)).map((list) => list.name)).toEqual([
    "Friends and Patrons",
    "Newsletter",
    "Volunteers",
  ]);
  expect(await searchSegments(sql, { search: "", from: 0, limit: 50 })).toHaveLength(6);
  expect((await searchPictures(sql)).total).toBe(4);
  expect((await getFields(sql)).get("first_name")?.label).toBe("First name");
});

it("has campaigns sent over three years, three to come, four being written, an archive and labels", async () => {
  const { sql } = services.database;
  const count = (filter: Parameters<typeof countCampaigns>[1]) => countCampaigns(sql, filter);
  expect(await count({ states: ["draft"] })).toBe(4);
  expect(await count({ states: ["scheduled"] })).toBe(3);
  expect(await count({ archived: true })).toBe(5);
  expect((await listLabels(sql)).map(({ name }) => name)).toEqual(["Friends", "Season", "Shop"]);
  expect((await listCampaigns(sql, { states: ["draft"] }))[0]!.name).toBe("March at Larkmoor");
  expect(await listCampaigns(sql, { search: "note GARD" })).toHaveLength(1);
  const [next] = await listCampaigns(sql, { states: ["scheduled"], order: "next", limit: 1 });
  expect(next!.sendAt!.toISOString()).toBe("2026-03-04T09:00:00.000Z");
  const jobs = sql`select kind, state, count(*)::int as n from jobs group by kind, state order by kind`;
  expect(await jobs).toEqual([
    { kind: "launch", state: "waiting", n: 3 },
    { kind: "readSource", state: "waiting", n: 3 },
  ]);
});

it("has a feed, a shop and a calendar with items and their pictures", async () => {
  const { sql } = services.database;
  const sources = await getSources(sql);
  expect(sources.map(({ name, kind, problem }) => [kind, name, problem])).toEqual([
    ["catalogue", "Seed shop", null],
    ["feed", "The gardeners’ notebook", null],
    ["calendar", "Walks and workshops calendar", null],
  ]);
  for (const { id } of sources) {
    const items = await searchItems(sql, id, { search: "", from: 0, limit: 24 });
    expect(items).toHaveLength(24);
    expect(items.every(({ picture }) => picture !== null)).toBe(true);
  }
});

it("has results that add up", async () => {
  const { sql } = services.database;
  const sent = (await listCampaigns(sql, { states: ["sent"], order: "sent" }))[0]!;
  const launch = (await getLaunch(sql, sent.launchId!))!;
  const m = await measuresOf(sql, launch.id);
  expect(m.accepted + m.bounced).toBe(m.readers);
  expect(m.clicked).toBeLessThan(m.opened);
  expect(m.opened).toBeLessThan(m.accepted);
  const links = await clicksByLink(sql, launch.id);
  const people = links.map((link) => link.people);
  expect(people).toEqual([...people].sort((a, b) => b - a));
  for (const link of links) expect(link.clicks).toBeGreaterThanOrEqual(link.people);
  const hours = await byHour(sql, launch.id, 48);
  expect(hours.length).toBeGreaterThan(20);
  for (const { hour } of hours) expect(hour >= 0 && hour < 48).toBe(true);
  const early = hours.filter((h) => h.hour < 6).reduce((sum, h) => sum + h.opened, 0);
  const late = hours.filter((h) => h.hour >= 24).reduce((sum, h) => sum + h.opened, 0);
  expect(early).toBeGreaterThan(late);
  // Those who bounced or left are held back from then on.
  const held = await sql<{ reason: string; n: number }>`
    select reason, count(*)::int as n from suppressions group by reason order by reason`;
  expect(held.map(({ reason }) => reason)).toEqual(["bounced", "unsubscribed"]);
  expect(held[1]!.n).toBeGreaterThan(m.unsubscribed);
  expect(held[1]!.n).toBeLessThan(300);
});

it("is seeded once", async () => {
  await seedDemo(services, () => {
    throw new Error("seeded again");
  });
});
