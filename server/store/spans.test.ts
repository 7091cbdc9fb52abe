import { afterAll, beforeAll, expect, it } from "vitest";
import { LIMITS } from "#core/limits.ts";
import { constantSql, didOnce, type Rule, ruleSql, type World } from "#core/rules/index.ts";
import { ruleKey } from "#core/text/index.ts";
import { worldOf } from "../audience/world.ts";
import type { Database } from "../db/database.ts";
import { openTestDatabase } from "../testing/database.ts";
import { addList, ruleOfSource } from "./audience.ts";
import { conditionGroups } from "./conditions.ts";
import { addContacts } from "./contacts.ts";
import { addFields } from "./fields.ts";
import { countReach, countRules, overlapOf } from "./reach.ts";
import { countAudience, countMailable, countSources } from "./readers.ts";
import { overContacts } from "./spans.ts";
import { tagShares, valueCounts } from "./tag-values.ts";

const now = new Date("2026-03-02T10:00:00Z");
const hill: Rule = { type: "field", field: "site", op: "is", argument: "Hill" };
const SITES = ["Hill", "Sea", "Hill", "Hill", "Sea", ""];

let database: Database;
let world: World;
let ids: number[];
let list: { kind: "list"; id: string };

/** People whose ids lie spans apart, as where many have been deleted. */
beforeAll(async () => {
  database = await openTestDatabase();
  const { sql } = database;
  await addFields(sql, [{ id: "site", label: "Site", type: "text" }]);
  ids = [];
  for (const [i, site] of SITES.entries()) {
    const values: Record<string, string> = site ? { site } : {};
    const email = `person${i}@example.org`;
    ids.push(...(await addContacts(sql, [{ email, values, createdAt: now }])));
    if (i % 2) {
      const apart = ids.at(-1)! + 1.5 * LIMITS.contactsAtOnce;
      await sql`select setval(pg_get_serial_sequence('contacts', 'id'), ${apart}::bigint)`;
    }
  }
  list = { kind: "list", id: await addList(sql, "Some", ids.slice(1), now) };
  world = await worldOf(sql, { now: () => now }, [ruleOfSource(list)]);
});
afterAll(() => database.close());

it("asks of each contact once, and of nobody where there is none", async () => {
  const { sql } = database;
  let asked = 0;
  const found = await overContacts(sql, (within) => {
    asked++;
    return sql<{ id: number }>`select c.id from contacts c where ${within} order by c.id`;
  });
  expect(found.map(({ id }) => id)).toEqual(ids);
  expect(asked).toBe(Math.ceil((ids.at(-1)! - ids[0]! + 1) / LIMITS.contactsAtOnce));
  const empty = await openTestDatabase();
  expect(await countMailable(empty.sql)).toBe(0);
  await empty.close();
});

it("adds up what each count finds", async () => {
  const { sql } = database;
  const everybody = constantSql("true");
  const audience = { include: [list], exclude: [] };
  expect((await countAudience(sql, audience, world, null)).readers).toBe(5);
  expect(await countSources(sql, [list, list], world)).toEqual([5, 5]);
  expect(await countMailable(sql)).toBe(6);
  expect(await countReach(sql, hill, world)).toEqual({ mailable: 3, all: 3, of: 6 });
  expect(await countRules(sql, [hill, { type: "all", rules: [] }], world)).toEqual([
    { mailable: 3, all: 3 },
    { mailable: 6, all: 6 },
  ]);
  expect((await overlapOf(sql, [hill, hill], world)).shared).toEqual([
    [3, 3],
    [3, 3],
  ]);
  const values = await valueCounts(sql, world, "contact:site", everybody);
  expect(new Map(values.map(({ value, people }) => [value, people]))).toEqual(
    new Map([
      ["Hill", 3],
      ["Sea", 2],
      [null, 1],
    ]),
  );
  const shares = await tagShares(sql, world, everybody);
  expect(shares.of).toBe(6);
  expect(shares.tags.find(({ ref }) => ref === "contact:site")?.have).toBe(5);
});

it("groups people by conditions with the first of each as a sample", async () => {
  const { sql } = database;
  const groups = await conditionGroups(sql, [ruleKey(hill)], world, ruleSql(hill, world));
  expect(groups).toEqual([{ bits: "1", people: 3, sample: ids[0] }]);
});

it("finds what people of every span did, and who never did it", async () => {
  const { sql } = database;
  // All but the last have bought something, the first two twice.
  for (const buyers of [ids.slice(0, -1), ids.slice(0, 2)]) {
    await sql`insert into events (kind, at, contact_id)
      select 'bought', ${now}, c.id from contacts c where c.id = any (${buyers}::bigint[])`;
  }
  const bought = didOnce("bought");
  const twice: Rule = { ...bought, times: { op: "atLeast", count: 2 } };
  const never: Rule = { ...bought, times: { op: "atMost", count: 0 } };
  expect(await countRules(sql, [bought, twice, never], world)).toEqual([
    { mailable: 5, all: 5 },
    { mailable: 2, all: 2 },
    { mailable: 1, all: 1 },
  ]);
  expect(await countReach(sql, never, world)).toEqual({ mailable: 1, all: 1, of: 6 });
  expect((await overlapOf(sql, [bought, twice, never], world)).shared).toEqual([
    [5, 2, 0],
    [2, 2, 0],
    [0, 0, 1],
  ]);
  const everybody = constantSql("true");
  const groups = await conditionGroups(sql, [bought, never].map(ruleKey), world, everybody);
  expect(new Map(groups.map(({ bits, people }) => [bits, people]))).toEqual(
    new Map([
      ["10", 5],
      ["01", 1],
    ]),
  );
});
