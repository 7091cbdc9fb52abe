/** Choosing with the database: memory and SQL choose the same, for everybody and for each. */
import fc from "fast-check";
import { afterAll, beforeAll, beforeEach, describe, expect, it } from "vitest";
import type { NamedChoice } from "#core/blocks/choices.ts";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { type Field, keysOf } from "#core/fields/index.ts";
import {
  type Choice,
  countSales,
  type LiveItem,
  liveItem,
  newChoice,
  ORDERS,
  planChoices,
  refOfItem,
} from "#core/items/index.ts";
import { compileRule, type Rule } from "#core/rules/index.ts";
import { nowIn } from "#core/schedule/index.ts";
import { liveLists, ownItems, planFor, spreadOf } from "../sources/choosing.ts";
import { addContacts } from "../store/contacts.ts";
import { noteSent, pastsOf, salesBefore } from "../store/deeds.ts";
import { getFields } from "../store/fields.ts";
import { fittingItems, ruleFields, searchItems, takeItems } from "../store/items.ts";
import { addSource, removeSource } from "../store/sources.ts";
import { startTestServices, type TestServices } from "../testing/services.ts";

let services: TestServices;
const sql = () => services.database.sql;
const NOW = new Date("2026-03-02T10:00:00Z");
const world = {
  now: nowIn("UTC", NOW),
  names: new Map<string, string>(),
  zone: "UTC",
  campaign: null,
};
beforeAll(async () => {
  services = await startTestServices();
});
afterAll(() => services.close());

const DAY = 86_400_000;
interface Product {
  readonly key: string;
  readonly title?: string;
  readonly days?: number;
  readonly values?: Record<string, unknown>;
}
/** A catalogue with these products in it. */
async function shop(products: readonly Product[], name = "Shop"): Promise<string> {
  const source = { kind: "catalogue", name, address: null, home: "" };
  return services.database.tx(async (tx) => {
    const id = await addSource(tx, source, NOW);
    const items = products.map(({ key, title = key, days = 0, values = {} }) => ({
      ...{ key, title, picture: "", values: values as never },
      at: new Date(NOW.getTime() - days * DAY),
    }));
    await takeItems(tx, { id, kind: "catalogue" }, items, NOW);
    return id;
  });
}
async function deeds(
  ...rows: [contact: number, kind: string, item: string, days: number, group?: string][]
) {
  await sql()`insert into events (kind, at, contact_id, item, class)
    select r.kind, r.at, r.contact, r.item, r.class from jsonb_to_recordset(${JSON.stringify(
      rows.map(([contact, kind, item, days, group]) => ({
        ...{ contact, kind, item, class: group ?? null },
        at: new Date(NOW.getTime() - days * DAY),
      })),
    )}::jsonb) as r(contact bigint, kind text, item text, at timestamptz, class text)`;
}
let people: number[];
beforeEach(async () => {
  for (const { id } of await sql()<{ id: string }>`select id from sources`) {
    await services.database.tx((tx) => removeSource(tx, id));
  }
  await sql()`delete from events`;
  await sql()`delete from sent_items`;
  await sql()`delete from contacts`;
  people = await addContacts(
    sql(),
    ["a", "b", "c"].map((name) => ({ email: `${name}@example.org`, values: {}, createdAt: NOW })),
  );
});
const named = (change: Partial<Choice>, node = "n"): NamedChoice => ({
  ...{ node, kind: "catalogue" },
  choice: newChoice({ count: 20, ...change }),
});
const keysAt = (items: readonly { item: LiveItem }[] | undefined) =>
  items?.map(({ item }) => item.key);

it("keeps the rule of a choice in the database as in memory, whatever the rule", async () => {
  const text = fc.constantFrom("Bean", "bean tall", "Pea", "é", "", "%_\\");
  const product = fc.record({
    title: text.filter((one) => one !== ""),
    price: fc.option(fc.integer({ min: 0, max: 5 })),
    sale_price: fc.option(fc.integer({ min: 0, max: 5 })),
    stock: fc.option(fc.integer({ min: 0, max: 2 })),
    categories: fc.subarray(["Seeds", "Tools"]),
    summary: text,
  });
  const condition = fc.oneof(
    fc.record({
      ...{
        type: fc.constant("field" as const),
        field: fc.constantFrom("price", "sale_price", "stock"),
      },
      op: fc.constantFrom("equals", "below", "above"),
      argument: fc.integer({ min: 0, max: 5 }),
    }),
    fc.record({
      ...{ type: fc.constant("field" as const), field: fc.constantFrom("item_title", "summary") },
      op: fc.constantFrom("is", "contains", "lacksText", "begins"),
      argument: text.filter((one) => one.trim() !== ""),
    }),
    fc.record({
      ...{ type: fc.constant("field" as const), field: fc.constant("categories") },
      op: fc.constantFrom("includes", "includesNone"),
      argument: fc.subarray(["seeds", "Tools"], { minLength: 1 }),
    }),
    fc.record({
      ...{
        type: fc.constant("field" as const),
        field: fc.constantFrom("price", "categories", "item_title"),
      },
      op: fc.constantFrom("hasValue", "noValue"),
      argument: fc.constant(null),
    }),
  );
  const rule = fc.record({
    type: fc.constantFrom("all" as const, "any" as const, "none" as const),
    rules: fc.array(condition, { maxLength: 3 }),
  }) as fc.Arbitrary<Rule>;
  const id = await shop([{ key: "x" }]);
  await fc.assert(
    fc.asyncProperty(
      fc.array(product, { minLength: 1, maxLength: 6 }),
      rule,
      async (products, one) => {
        const items = products.map(({ title, ...values }, i) => ({
          ...{ key: `k${i}`, title, at: NOW, picture: "", values: values as never },
        }));
        await services.database.tx((tx) =>
          takeItems(tx, { id, kind: "catalogue" }, items, NOW, true),
        );
        const source = { id, kind: "catalogue" };
        const inSql = await fittingItems(sql(), source, one, world, { best: "newest", limit: 99 });
        const fields = ruleFields(await getFields(sql(), id));
        const around = { ...world, fields, tables: new Map(), segments: new Map() };
        const fits = compileRule(one, around);
        const all = await searchItems(sql(), id, { search: "", from: 0, limit: 99 });
        const inMemory = all.filter((item) =>
          fits({
            keys: keysOf(
              { ...item.values, item_title: item.title },
              fields as ReadonlyMap<string, Field>,
            ),
            ...{ lists: new Set<string>(), activity: [], record: () => null },
          }),
        );
        expect(inSql.map(({ key }) => key).sort()).toEqual(inMemory.map(({ key }) => key).sort());
      },
    ),
    { numRuns: 60 },
  );
});

it("chooses from the database what it chooses from all items at once", async () => {
  const id = await shop(
    Array.from({ length: 12 }, (_, i) => ({
      ...{ key: `k${i}`, days: i, title: `T${(i * 7) % 12}` },
      values: {
        ...{ price: 4, stock: i % 4, categories: [i % 2 ? "Seeds" : "Tools"] },
        ...(i % 3 === 0 && { sale_price: 1 + i / 10 }),
      },
    })),
  );
  await deeds(
    [people[0]!, "bought", `${id}:k3`, 1, "Seeds"],
    [people[0]!, "bought", `${id}:k5`, 2, "Seeds"],
    [people[1]!, "bought", `${id}:k3`, 3, "Seeds"],
    [people[1]!, "bought", `${id}:k8`, 4, "Tools"],
    [people[2]!, "viewed", `${id}:k1`, 5, "Seeds"],
    [people[2]!, "bought", `${id}:k3`, 400, "Seeds"],
  );
  const pool = (await searchItems(sql(), id, { search: "", from: 0, limit: 99 })).map((item) =>
    liveItem(id, "catalogue", item),
  );
  const counts = countSales(await salesBefore(sql(), NOW), NOW.getTime());
  const pasts = await pastsOf(sql(), people, NOW);
  for (const { id: order } of ORDERS) {
    for (const change of [{}, { fill: "title" }, { inStock: true }, { unbought: true }]) {
      const choices = [named({ order, days: 90, ...change })];
      const byDatabase = await planFor(sql(), choices, world);
      const inMemory = planChoices([{ node: "n", choice: choices[0]!.choice, pool }], {
        now: NOW.getTime(),
        zone: "UTC",
        counts,
        sent: new Set(),
      });
      const of = (plan: typeof inMemory, past?: ReturnType<typeof pasts.get>) =>
        keysAt(plan.fixed.get("n") ?? plan.forReader(past ? { values: {}, past } : null).get("n"));
      for (const past of [undefined, ...people.map((one) => pasts.get(one))]) {
        expect([order, change, of(byDatabase, past)]).toEqual([order, change, of(inMemory, past)]);
      }
    }
  }
});

it("takes all sources of the kind where none is named, and never one of another kind", async () => {
  const [one, two] = [await shop([{ key: "a" }], "One"), await shop([{ key: "b" }], "Two")];
  const all = await planFor(sql(), [named({ order: "title" })], world);
  expect(keysAt(all.fixed.get("n"))).toEqual(["a", "b"]);
  const some = await planFor(sql(), [named({ sources: [two!] })], world);
  expect(keysAt(some.fixed.get("n"))).toEqual(["b"]);
  const feed = await planFor(sql(), [{ ...named({ sources: [one!] }), kind: "feed" }], world);
  expect(keysAt(feed.fixed.get("n"))).toEqual([]);
});

it("finds what sold best among many that are newer, and only what is in stock", async () => {
  const many = Array.from({ length: 320 }, (_, i) => ({ key: `n${i}`, days: 1 }));
  const id = await shop([
    ...many,
    { key: "old", days: 900 },
    { key: "none", days: 901, values: { stock: 0 } },
  ]);
  await deeds([people[0]!, "bought", `${id}:old`, 1], [people[1]!, "bought", `${id}:none`, 1]);
  const plan = await planFor(sql(), [named({ order: "sold", inStock: true })], world);
  expect(keysAt(plan.fixed.get("n"))).toEqual(["old"]);
});

it("leaves out what another campaign has sent", async () => {
  const id = await shop([{ key: "a" }, { key: "b" }]);
  await sql()`insert into documents (id, body, updated_at) values ('d', '{}', now())`;
  await sql()`insert into campaigns (id, name, document_id, audience, created_at, updated_at)
    select v, v, 'd', '{}', now(), now() from unnest(array['one', 'two']) v`;
  await noteSent(sql(), "one", [{ source: id, key: "a", readers: null }], NOW);
  const kept = async (campaign: string) => {
    const plan = await planFor(sql(), [named({ unsent: true, order: "title" })], {
      ...world,
      campaign,
    });
    return keysAt(plan.fixed.get("n"));
  };
  expect(await kept("two")).toEqual(["b"]);
  // What it has sent itself it may show again.
  expect(await kept("one")).toEqual(["a", "b"]);
});

describe("for each reader", () => {
  it("is chosen out of what the email was frozen with, and counted", async () => {
    const id = await shop([
      { key: "a", days: 1 },
      { key: "b", days: 2 },
      { key: "c", days: 3 },
    ]);
    await deeds([people[0]!, "viewed", `${id}:b`, 1], [people[1]!, "viewed", `${id}:c`, 2]);
    let n = 0;
    const newId = () => `i${++n}`;
    const choice = newChoice({ order: "viewed", fill: "newest", count: 2 });
    const block = createBlock("shelf", newId, { choice });
    const email = createDocument([createBand(newId, [createColumn(newId, [block])])]);
    const choices = [{ node: block.id, kind: "catalogue", choice }];
    const live = await liveLists(sql(), choices, world);
    expect(live.get(block.id)!.perReader).toEqual({ standard: [`${id}:a`, `${id}:b`] });
    const own = (await ownItems(sql(), email, live, NOW, "UTC"))!;
    const readers = people.map((one) => ({ id: one, values: {} }));
    const values = await own.values(sql(), readers);
    expect(people.map((one) => values.get(one)![`live:${block.id}`])).toEqual([
      [`${id}:b`, `${id}:a`],
      [`${id}:c`, `${id}:a`],
      [`${id}:a`, `${id}:b`],
    ]);
    // What comes or goes at the source meanwhile is not in it.
    await services.database.tx((tx) => removeSource(tx, id));
    expect(await (await ownItems(sql(), email, live, NOW, "UTC"))!.values(sql(), readers)).toEqual(
      values,
    );
    expect(await ownItems(sql(), email, new Map(), NOW, "UTC")).toBeNull();
  });

  it("says how many different choices there are, and who gets too few", async () => {
    const id = await shop([{ key: "a" }, { key: "b" }]);
    await deeds(
      [people[0]!, "viewed", `${id}:b`, 1],
      [people[1]!, "viewed", `${id}:b`, 2],
      [people[1]!, "viewed", `${id}:a`, 1],
    );
    const choices = [named({ order: "viewed", count: 2 })];
    const readers = people.map((one) => ({ id: one, values: {} }));
    expect(await spreadOf(sql(), choices, "n", readers, world)).toEqual({
      ...{ readers: 3, different: 3, fewer: 1, none: 1 },
    });
  });
});

it("looks at what a reader did up to the moment, the last first, and at no more than the last of it", async () => {
  await deeds(
    [people[0]!, "bought", "s:a", 2],
    [people[0]!, "viewed", "s:b", 1],
    [people[0]!, "bought", "s:later", -1],
    [people[0]!, "answered", "q", 1],
  );
  const past = (await pastsOf(sql(), people, NOW)).get(people[0]!)!;
  expect(past.bought.map(({ item }) => item)).toEqual(["s:a"]);
  expect(past.viewed.map(({ item }) => item)).toEqual(["s:b"]);
  expect((await pastsOf(sql(), people, NOW)).has(people[1]!)).toBe(false);
  expect((await salesBefore(sql(), NOW)).map(({ item }) => item)).toEqual(["s:a"]);
  expect(refOfItem({ source: "s", key: "a" })).toBe("s:a");
});
