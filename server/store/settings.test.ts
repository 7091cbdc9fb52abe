import { afterAll, beforeAll, expect, it } from "vitest";
import type { Database } from "../db/database.ts";
import { jsonb } from "../db/values.ts";
import { openTestDatabase } from "../testing/database.ts";
import { addWord, getSettings, removeWord, saveSetting } from "./settings.ts";

let database: Database;
beforeAll(async () => {
  database = await openTestDatabase();
});
afterAll(() => database.close());

it("are checked once for what is stored, and read anew when that has changed", async () => {
  const { sql } = database;
  const before = await getSettings(sql);
  expect(before.sender.zone).toBe("Europe/London");
  expect(await getSettings(sql)).toBe(before);
  await saveSetting(sql, "sender", { ...before.sender, zone: "Asia/Tokyo" });
  expect((await getSettings(sql)).sender.zone).toBe("Asia/Tokyo");
  await addWord(sql, "hellebore");
  expect((await getSettings(sql)).words).toEqual(["hellebore"]);
  await removeWord(sql, "hellebore");
  expect((await getSettings(sql)).words).toEqual([]);
});

it("of a transaction that is taken back are not kept", async () => {
  const taken = database.tx(async (sql) => {
    await saveSetting(sql, "firstSteps", { delivery: true });
    expect((await getSettings(sql)).firstSteps.delivery).toBe(true);
    throw new Error("taken back");
  });
  await expect(taken).rejects.toThrow("taken back");
  expect((await getSettings(database.sql)).firstSteps.delivery).toBe(false);
});

it("that nobody can read are an error each time, until they are mended", async () => {
  const { sql } = database;
  await sql`insert into settings (key, value) values ('sending', ${jsonb({ bounceShare: 400 })})`;
  for (let i = 0; i < 2; i++) await expect(getSettings(sql)).rejects.toThrow("At most 100.");
  await saveSetting(sql, "sending", { bounceShare: 5, capDays: 7, nameField: "", orderDays: 7 });
  expect((await getSettings(sql)).sending.bounceShare).toBe(5);
});
