import { afterAll, beforeAll, expect, it } from "vitest";
import { describe as inWords, KEPT_SEGMENTS, type Rule } from "#core/rules/index.ts";
import type { Database } from "../db/database.ts";
import { addList, addSegment } from "../store/audience.ts";
import { addFields, addTable } from "../store/fields.ts";
import { addRecords } from "../store/records.ts";
import { openTestDatabase } from "../testing/database.ts";
import { worldOf } from "./world.ts";

const now = new Date("2026-03-02T10:00:00Z");
const clock = { now: () => now };
const bought = (item: string): Rule => ({
  type: "activity",
  did: "bought",
  campaign: null,
  link: null,
  item,
  group: null,
  times: { op: "atLeast", count: 1 },
  when: null,
});

let database: Database;
let inner: Rule;
let site: number;
let list: string;
beforeAll(async () => {
  database = await openTestDatabase();
  const { sql } = database;
  list = await addList(sql, "Spring walkers", [], now);
  await addTable(sql, "sites", "Sites", now);
  await addFields(sql, [{ id: "site", label: "Site", type: "record", table: "sites" }]);
  [site] = (await addRecords(
    sql,
    "sites",
    new Map(),
    [{ name: "Larkmoor Hill", values: {} }],
    now,
  )) as [number];
  await sql`insert into event_subjects (kind, id, name, classes) values
    ('bought', 'shop:pea:12', 'Sweet pea', '[]'), ('bought', 'other', 'Beans', '[]')`;
  const deep = await addSegment(sql, "On the list", { type: "list", list, is: true }, now);
  const mid = await addSegment(sql, "Around it", { type: "segment", segment: deep, is: true }, now);
  inner = { type: "segment", segment: mid, is: true };
});
afterAll(() => database.close());

it("names what rules speak of, and what the segments they name do", async () => {
  const rule: Rule = {
    type: "all",
    rules: [
      inner,
      bought("shop:pea:12"),
      { type: "field", field: "site", op: "isRecord", argument: site },
    ],
  };
  const world = await worldOf(database.sql, clock, [rule]);
  expect(inWords(rule, world)).toBe(
    "is in the segment “Around it” and bought “Sweet pea” and Site is “Larkmoor Hill”",
  );
  expect(world.names.get(`list:${list}`)).toBe("Spring walkers");
  expect(world.names.has("product:other")).toBe(false);
});

it("always holds the segments that are kept, and of others none that nobody names", async () => {
  const { segments } = await worldOf(database.sql, clock);
  expect([...segments.keys()]).toEqual(KEPT_SEGMENTS.map(({ id }) => id));
});

it("says of what is gone that it is, and takes numbers that no record has", async () => {
  const rules: Rule[] = [
    { type: "list", list: "gone", is: true },
    { type: "segment", segment: "gone", is: true },
    bought("gone"),
    { type: "field", field: "site", op: "isRecord", argument: 99_999 },
    { type: "field", field: "site", op: "above", argument: 1e300 },
    { type: "field", field: "nowhere.site", op: "isRecord", argument: 1 },
  ];
  const world = await worldOf(database.sql, clock, rules);
  for (const rule of rules) expect(inWords(rule, world)).toContain("gone (nobody)");
});
