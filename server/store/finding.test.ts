import { afterAll, beforeAll, expect, it } from "vitest";
import type { Rule } from "#core/rules/index.ts";
import type { Database } from "../db/database.ts";
import { openTestDatabase } from "../testing/database.ts";
import { addList, addSegment } from "./audience.ts";
import { addTable } from "./fields.ts";
import { FINDABLE, type Findable, findNamed, namesOf } from "./finding.ts";
import { addRecords } from "./records.ts";

let database: Database;
const now = new Date("2026-03-02T10:00:00Z");
const EVERYBODY: Rule = { type: "all", rules: [] };
beforeAll(async () => {
  database = await openTestDatabase();
  const { sql } = database;
  for (const name of ["Spring walkers", "Walkers of the brook", "Élan’s friends", "%_"]) {
    await addList(sql, name, [], now);
  }
  await addSegment(sql, "Walk leaders", EVERYBODY, now);
  await addTable(sql, "sites", "Sites", now);
  await addRecords(sql, "sites", new Map(), [{ name: "Larkmoor Hill", values: {} }], now);
  await sql`insert into event_subjects (kind, id, name, classes) values
    ('bought', 'p1', 'Sweet pea', '["Seeds", "Shop"]'), ('answered', 'q1', 'Which walk?', '["North", "South"]')`;
});
afterAll(() => database.close());

const find = async (what: Findable, typed: string, of = "") =>
  (await findNamed(database.sql, what, typed, of)).map(({ name }) => name);

it("finds by the beginnings of words, whatever their case and accents, in any order", async () => {
  expect(await find("lists", "walk")).toEqual(["Spring walkers", "Walkers of the brook"]);
  expect(await find("lists", "BROOK walk")).toEqual(["Walkers of the brook"]);
  expect(await find("lists", "elan")).toEqual(["Élan’s friends"]);
  expect(await find("lists", "alkers")).toEqual([]);
  expect(await find("lists", "")).toHaveLength(4);
});

it("takes what is typed for words, whatever stands in it", async () => {
  for (const typed of ["'", "\\", "a & b | !c <-> d", "(", ":*", "%", "_", "\u0000x", "’"]) {
    expect(await find("lists", typed.replaceAll("\u0000", ""))).not.toContain("Spring walkers");
  }
});

it("finds every kind there is, and knows each by its id", async () => {
  const of: Partial<Record<Findable, string>> = {
    records: "sites",
    classes: "bought",
    links: "nowhere",
  };
  for (const what of FINDABLE) {
    const all = await findNamed(database.sql, what, "", of[what] ?? "");
    const known = await namesOf(
      database.sql,
      what,
      all.map(({ id }) => id),
      of[what] ?? "",
    );
    expect(new Set(known.map(({ name }) => name))).toEqual(new Set(all.map(({ name }) => name)));
  }
  expect(await find("segments", "bounc")).toEqual(["Bounced"]);
  expect(await find("sources", "walk")).toHaveLength(3);
  expect(await find("classes", "", "q1")).toEqual(["North", "South"]);
  expect(await find("classes", "se", "bought")).toEqual(["Seeds"]);
  expect(await find("records", "hill", "sites")).toEqual(["Larkmoor Hill"]);
});
