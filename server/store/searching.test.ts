/** Searching people: the same whether their words have been gathered yet or not. */
import fc from "fast-check";
import { afterAll, beforeAll, expect, it } from "vitest";
import type { Database } from "../db/database.ts";
import { openTestDatabase } from "../testing/database.ts";
import { addContacts, changeValues, findContacts, gatherWords } from "./contacts.ts";
import { addFields } from "./fields.ts";

let database: Database;
let ids: number[];
const now = new Date("2026-03-02T10:00:00Z");
const PEOPLE = [
  { email: "Ada.Ashdown@example.org", values: { name: "Ada Ashdown", town: "Éloise-sur-Mer" } },
  { email: "bob@ashdown.example", values: { name: "Bob O’Hara", town: "Larkmoor" } },
  { email: "c+news@example.net", values: { name: "Çelik", town: "Brook & Hill" } },
];
beforeAll(async () => {
  database = await openTestDatabase();
  const { sql } = database;
  await addFields(sql, [
    { id: "name", label: "Name", type: "text" },
    { id: "town", label: "Town", type: "text" },
  ]);
  ids = await addContacts(
    sql,
    PEOPLE.map((one) => ({ ...one, createdAt: now })),
  );
});
afterAll(() => database.close());

const find = async (typed: string) =>
  (await findContacts(database.sql, typed)).map(({ id }) => ids.indexOf(id)).sort();
const SEARCHES: [string, number[]][] = [
  ["ash", [0, 1]],
  ["ADA ash", [0]],
  ["ashdown.example", [0, 1]],
  ["eloise", [0]],
  ["mer", [0]],
  ["celik", [2]],
  ["hill brook", [2]],
  ["example net", [2]],
  ["dow", []],
  ["o'hara", []],
  ["hara", []],
];

it("finds by the beginnings of words of every field and of the address", async () => {
  const before = await Promise.all(SEARCHES.map(([typed]) => find(typed)));
  expect(await gatherWords(database.sql, 100)).toBe(PEOPLE.length);
  expect(await gatherWords(database.sql, 100)).toBe(0);
  const after = await Promise.all(SEARCHES.map(([typed]) => find(typed)));
  expect(after).toEqual(before);
  for (const [i, [typed, people]] of SEARCHES.entries()) {
    if (people.length > 0) expect([typed, before[i]]).toEqual([typed, people]);
  }
});

it("finds what was changed a moment ago, and no longer what it was", async () => {
  const { sql } = database;
  await gatherWords(sql, 100);
  await changeValues(sql, ids[1]!, { town: "Saltmere" });
  expect([await find("saltm"), await find("larkmoor")]).toEqual([[1], []]);
  await gatherWords(sql, 100);
  expect([await find("saltm"), await find("larkmoor")]).toEqual([[1], []]);
});

it("takes whatever is typed, and says the same before and after", async () => {
  const { sql } = database;
  await fc.assert(
    fc.asyncProperty(fc.string({ maxLength: 12, unit: "binary" }), async (typed) => {
      const text = typed.replaceAll("\u0000", "").toWellFormed();
      await gatherWords(sql, 100);
      const gathered = await find(text);
      await sql`update contacts set words = null`;
      expect(await find(text)).toEqual(gathered);
    }),
    { numRuns: 60 },
  );
});
