import { afterAll, beforeAll, expect, it } from "vitest";
import type { World } from "#core/rules/index.ts";
import { worldOf } from "../audience/world.ts";
import type { Database } from "../db/database.ts";
import { openTestDatabase } from "../testing/database.ts";
import { addList, addSegment, audienceProblem, ruleOfSource } from "./audience.ts";
import { addContacts, findContacts, getContact, stepContact } from "./contacts.ts";
import { addFields } from "./fields.ts";
import { countAudience, countMailable, countSources } from "./readers.ts";
import { suppress } from "./suppressions.ts";

let database: Database;
let people: World;
let ids: number[];
const lists: Record<string, string> = {};
const now = new Date("2026-03-02T10:00:00Z");

beforeAll(async () => {
  database = await openTestDatabase();
  const { sql } = database;
  await addFields(sql, [{ id: "site", label: "Site", type: "text" }]);
  ids = await addContacts(
    sql,
    ["Hill", "hill", "Sea", "Sea", ""].map((site, i) => ({
      email: `Person${i}@Example.org`,
      values: (site ? { site } : {}) as Record<string, string>,
      createdAt: now,
    })),
  );
  lists.all = await addList(sql, "All", ids, now);
  lists.two = await addList(sql, "Two", ids.slice(0, 2), now);
  lists.hill = await addSegment(
    sql,
    "Hill",
    { type: "field", field: "site", op: "is", argument: "HILL" },
    now,
  );
  await suppress(sql, "person1@example.ORG", "unsubscribed", now);
  await suppress(sql, "person3@example.org", "bounced", now);
  const named = [
    ruleOfSource({ kind: "list", id: lists.all! }),
    ruleOfSource({ kind: "list", id: lists.two! }),
    ruleOfSource({ kind: "segment", id: lists.hill! }),
  ];
  people = await worldOf(sql, { now: () => now }, named);
});
afterAll(() => database.close());

const list = (name: string) => ({ kind: "list" as const, id: lists[name]! });
const segment = (name: string) => ({ kind: "segment" as const, id: lists[name]! });

it("counts each person once, and those held back apart", async () => {
  const both = { include: [list("all"), list("two"), segment("hill")], exclude: [] };
  expect(await countAudience(database.sql, both, people, null)).toEqual({
    readers: 3,
    unsubscribed: 1,
    blocked: 0,
    complained: 0,
    enough: 0,
    left: 0,
    bounced: 1,
  });
});

it("leaves out, and reaches nobody where nothing is chosen", async () => {
  const without = { include: [list("all")], exclude: [segment("hill")] };
  expect(await countAudience(database.sql, without, people, null)).toMatchObject({
    readers: 2,
    bounced: 1,
  });
  const nobody = { include: [], exclude: [list("all")] };
  expect(await countAudience(database.sql, nobody, people, null)).toMatchObject({ readers: 0 });
});

it("counts sources among those who can be mailed", async () => {
  const counts = await countSources(
    database.sql,
    [list("all"), list("two"), segment("hill")],
    people,
  );
  expect(counts).toEqual([3, 1, 1]);
  expect(await countMailable(database.sql)).toBe(3);
});

it("knows when a list is gone", async () => {
  const gone = { include: [{ kind: "list" as const, id: "gone" }], exclude: [] };
  expect(await audienceProblem(database.sql, gone)).toContain("gone");
  expect(await countAudience(database.sql, gone, people, null)).toMatchObject({ readers: 0 });
  expect(await audienceProblem(database.sql, { include: [list("all")], exclude: [] })).toBeNull();
});

it("finds contacts by any part, whatever the case, and nothing by a wildcard", async () => {
  const { sql } = database;
  expect((await findContacts(sql, "PERSON2")).map((c) => c.email)).toEqual(["Person2@example.org"]);
  expect(await findContacts(sql, "sea")).toHaveLength(2);
  expect(await findContacts(sql, "%")).toHaveLength(0);
});

it("steps from contact to contact and stops at the ends", async () => {
  const { sql } = database;
  const first = await stepContact(sql, null, "next");
  expect(first?.id).toBe(ids[0]);
  expect((await stepContact(sql, ids[0]!, "next"))?.id).toBe(ids[1]);
  expect(await stepContact(sql, ids[0]!, "previous")).toBeNull();
  expect((await getContact(sql, ids[1]!))?.heldBack).toBe("unsubscribed");
});
