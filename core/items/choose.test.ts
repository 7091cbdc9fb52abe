/** Choosing items: what fits, in which order, for whom, and always the same. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { anItem } from "../testing/items.ts";
import {
  type Choice,
  type ChoosingReader,
  type Chosen,
  choiceWords,
  chooser,
  countSales,
  isPersonal,
  type LiveItem,
  newChoice,
  ORDERS,
  ordersFor,
  type Past,
  planChoices,
  refOfItem,
  refsOfChoice,
  sayTheSame,
} from "./index.ts";

const DAY = 86_400_000;
const NOW = Date.UTC(2026, 5, 1);
const product = (key: string, change: Partial<LiveItem> = {}): LiveItem =>
  anItem({ key, title: key, at: NOW - 10 * DAY, ...change });
const deed = (key: string, daysAgo = 1, category: string | null = null) => ({
  item: `shop:${key}`,
  title: key,
  category,
  at: NOW - daysAgo * DAY,
});
const past = (change: Partial<Past> = {}): Past => ({ bought: [], viewed: [], ...change });
const reader = (change: Partial<Past> = {}, values = {}): ChoosingReader => ({
  values,
  past: past(change),
});
const sales = (...rows: [who: number, key: string, daysAgo: number][]) =>
  countSales(
    rows.map(([who, key, ago]) => ({ who, item: `shop:${key}`, at: NOW - ago * DAY })),
    NOW,
  );
const world = (counts = sales(), sent: ReadonlySet<string> = new Set()) => ({
  ...{ now: NOW, zone: "UTC", counts, sent },
});
const keys = (chosen: readonly Chosen[]) => chosen.map(({ item }) => item.key);
const choose = (
  change: Partial<Choice>,
  pool: readonly LiveItem[],
  who: ChoosingReader | null = null,
  around = world(),
) => chooser(newChoice({ count: 10, ...change }), pool, around)(who);

const [a, b, c, d] = [
  product("a", { at: NOW - 4 * DAY, values: { categories: ["Seeds"], price: 4, sale_price: 2 } }),
  product("b", { at: NOW - 3 * DAY, values: { categories: ["Tools"], price: 4, sale_price: 3 } }),
  product("c", { at: NOW - 2 * DAY, values: { categories: ["Seeds", "Gifts"], price: 9 } }),
  product("d", { at: NOW - DAY, values: { stock: 0 } }),
];
const ALL = [b, d, a, c];

describe("an order", () => {
  it("is by time, title or reduction, whatever the pool's", () => {
    expect(keys(choose({ order: "newest" }, ALL))).toEqual(["d", "c", "b", "a"]);
    expect(keys(choose({ order: "oldest" }, ALL))).toEqual(["a", "b", "c", "d"]);
    expect(keys(choose({ order: "title" }, ALL))).toEqual(["a", "b", "c", "d"]);
    const reduced = choose({ order: "reduced" }, ALL);
    expect(reduced.map(({ item, why }) => [item.key, why])).toEqual([
      ["a", "50 % off"],
      ["b", "25 % off"],
    ]);
  });

  it("is by what sold best within some days, the rest to fill up", () => {
    const counts = sales([1, "b", 1], [2, "b", 2], [1, "c", 3], [3, "a", 40]);
    const found = choose({ order: "sold", days: 30, fill: "newest" }, ALL, null, world(counts));
    expect(found.map(({ item, why }) => [item.key, why])).toEqual([
      ["b", "sold 2 times in 30 days"],
      ["c", "sold 1 times in 30 days"],
      ["d", "to fill up: new"],
      ["a", "to fill up: new"],
    ]);
    // As many days as it takes, and not a moment more.
    expect(keys(choose({ order: "sold", days: 40 }, ALL, null, world(counts)))).toContain("a");
    expect(keys(choose({ order: "sold", days: 39 }, ALL, null, world(counts)))).not.toContain("a");
  });

  it("is by what the reader looked at, the last first, each once", () => {
    const who = reader({
      viewed: [deed("c", 1), deed("gone", 2), deed("a", 3), deed("c", 4), deed("b", 200)],
    });
    const found = choose({ order: "viewed", days: 90 }, ALL, who);
    expect(found.map(({ item, why }) => [item.key, why])).toEqual([
      ["c", "looked at on 31 May 2026"],
      ["a", "looked at on 29 May 2026"],
    ]);
    expect(choose({ order: "viewed" }, ALL, null)).toEqual([]);
  });

  it("is by what others bought besides what the reader bought", () => {
    const counts = sales(
      [1, "a", 1],
      [1, "b", 2],
      [2, "a", 3],
      [2, "b", 4],
      [3, "a", 5],
      [3, "c", 6],
    );
    const who = reader({ bought: [deed("a")] });
    const found = choose({ order: "together", unbought: true }, ALL, who, world(counts));
    expect(found.map(({ item, why }) => [item.key, why])).toEqual([
      ["b", "often bought with “a”"],
      ["c", "often bought with “a”"],
    ]);
    expect(choose({ order: "together" }, ALL, reader(), world(counts))).toEqual([]);
  });

  it("is by the categories the reader chose most, the best sold of each first", () => {
    const counts = sales([9, "a", 1]);
    const who = reader({
      bought: [deed("x", 1, "Tools")],
      viewed: [deed("y", 2, "Seeds"), deed("z", 3, "Seeds"), deed("w", 400, "Gifts")],
    });
    const found = choose({ order: "favourite", days: 90 }, ALL, who, world(counts));
    expect(found.map(({ item, why }) => [item.key, why])).toEqual([
      ["a", "in “Seeds”, a favourite"],
      ["c", "in “Seeds”, a favourite"],
      ["b", "in “Tools”, a favourite"],
    ]);
    // Chosen equally often, they stand by their names, whichever was first.
    for (const viewed of [
      [deed("y", 2, "Tools"), deed("z", 3, "Seeds")],
      [deed("z", 3, "Seeds"), deed("y", 2, "Tools")],
    ]) {
      const even = choose({ order: "favourite", days: 90 }, ALL, reader({ viewed }), world(counts));
      expect(even.map(({ item }) => item.key)).toEqual(["a", "c", "b"]);
    }
  });

  it("is offered where it makes sense", () => {
    const labels = (kind: string) => ordersFor(kind).map(({ id }) => id);
    expect(labels("feed")).toEqual(["newest", "oldest", "title"]);
    expect(labels("calendar")).toEqual(["newest", "soonest", "oldest", "title"]);
    expect(labels("catalogue")).toHaveLength(ORDERS.length - 1);
  });
});

describe("what fits", () => {
  it("is new enough, in stock, not sent before and not bought", () => {
    expect(keys(choose({ newerThan: 2 }, ALL))).toEqual(["d", "c"]);
    expect(keys(choose({ inStock: true }, ALL))).toEqual(["c", "b", "a"]);
    const sent = world(sales(), new Set(["shop:c"]));
    expect(keys(choose({ unsent: true }, ALL, null, sent))).toEqual(["d", "b", "a"]);
    expect(keys(choose({ unsent: false }, ALL, null, sent))).toEqual(["d", "c", "b", "a"]);
    expect(keys(choose({ unbought: true }, ALL, reader({ bought: [deed("d")] })))).toEqual([
      "c",
      "b",
      "a",
    ]);
  });

  it("says the same as the reader's own field", () => {
    const match = { field: "categories", reader: "topics" };
    expect(keys(choose({ match }, ALL, reader({}, { "contact:topics": "Gifts, tools" })))).toEqual([
      "c",
      "b",
    ]);
    expect(choose({ match }, ALL, reader())).toEqual([]);
    expect(sayTheSame("Larkmoor Hill", "larkmoor hill")).toBe(true);
    expect(sayTheSame(["A", "B"], "c, b")).toBe(true);
    expect(sayTheSame([], "")).toBe(false);
    expect(sayTheSame(null, null)).toBe(false);
  });

  it("is so many, after so many, one of each source", () => {
    expect(keys(choose({ count: 2, skip: 1 }, ALL))).toEqual(["c", "b"]);
    const other = product("e", { source: "other", at: NOW - 5 * DAY });
    expect(keys(choose({ onePerSource: true }, [...ALL, other]))).toEqual(["d", "e"]);
  });

  it("is an event only until it is over", () => {
    const event = (key: string, hours: number, values = {}) =>
      anItem({ key, kind: "calendar", source: "walks", at: NOW + hours * 3_600_000, values });
    const all = [
      event("over", -3, { minutes: 120 }),
      event("on", -1, { minutes: 120 }),
      event("later", 30),
    ];
    expect(keys(choose({ order: "soonest" }, all))).toEqual(["on", "later"]);
  });

  it("is what was picked by hand, in that order, as long as it is there", () => {
    const picked = ["c", "gone", "a"].map((key) => ({ source: "shop", key }));
    const found = choose({ picked, count: 1, inStock: true }, ALL);
    expect(found.map(({ item, why }) => [item.key, why])).toEqual([
      ["c", "picked by hand"],
      ["a", "picked by hand"],
    ]);
  });
});

describe("a plan for an email", () => {
  const plan = (counts = sales()) =>
    planChoices(
      [
        {
          node: "own",
          choice: newChoice({ order: "viewed", fill: "newest", count: 2 }),
          pool: ALL,
        },
        { node: "all", choice: newChoice({ order: "newest", count: 1 }), pool: ALL },
        {
          node: "hand",
          choice: newChoice({ picked: [{ source: "shop", key: "d" }] }),
          pool: [d],
        },
        {
          node: "more",
          choice: newChoice({ order: "viewed", fill: "newest", count: 9 }),
          pool: ALL,
        },
      ],
      world(counts),
    );

  it("has no item twice that was chosen by rule", () => {
    const made = plan();
    expect([...made.fixed].map(([node, items]) => [node, keys(items)])).toEqual([
      ["hand", ["d"]],
      ["all", ["c"]],
    ]);
    const own = made.forReader(reader({ viewed: [deed("b")] }));
    expect([...own].map(([node, items]) => [node, keys(items)])).toEqual([
      ["own", ["b", "a"]],
      ["more", []],
    ]);
    expect([...made.personal.keys()]).toEqual(["own", "more"]);
  });

  it("is the same for the same items, reader and clock, in whatever order the items come", () => {
    const order = fc.constantFrom(...ORDERS.map(({ id }) => id));
    const item = fc.record({
      n: fc.nat(12),
      days: fc.nat(5),
      stock: fc.option(fc.nat(2)),
      category: fc.constantFrom("Seeds", "Tools"),
    });
    const did = fc.array(fc.tuple(fc.nat(12), fc.nat(5)), { maxLength: 6 });
    fc.assert(
      fc.property(
        fc.uniqueArray(item, { selector: ({ n }) => n, maxLength: 10 }),
        fc.record({
          order,
          fill: fc.option(order),
          count: fc.integer({ min: 1, max: 5 }),
          unbought: fc.boolean(),
        }),
        did,
        did,
        (raw, change, bought, viewed) => {
          const pool = raw.map(({ n, days, stock, category }) =>
            product(`k${n}`, { at: NOW - days * DAY, values: { stock, categories: [category] } }),
          );
          const deeds = (list: [number, number][]) =>
            list.map(([n, ago]) => deed(`k${n}`, ago, "Seeds"));
          const who = reader({ bought: deeds(bought), viewed: deeds(viewed) });
          const counts = sales(
            ...bought.map(([n, ago], i): [number, string, number] => [i % 2, `k${n}`, ago]),
          );
          const once = choose(change, pool, who, world(counts));
          const again = choose(change, pool.toReversed(), who, world(counts));
          expect(again).toEqual(once);
          expect(new Set(keys(once)).size).toBe(once.length);
          expect(once.length).toBeLessThanOrEqual(change.count);
          if (change.unbought) {
            const owned = new Set(who.past.bought.map((one) => one.item));
            expect(once.some(({ item: one }) => owned.has(refOfItem(one)))).toBe(false);
          }
        },
      ),
    );
  });
});

it("counts what is bought together by people, each thing once, and no more of one than a basket", () => {
  const counts = sales([1, "a", 1], [1, "a", 2], [1, "b", 3], [2, "b", 1]);
  expect([...counts.together("shop:a")]).toEqual([["shop:b", 1]]);
  expect(counts.together("shop:none").size).toBe(0);
  const much = sales(
    ...Array.from({ length: 60 }, (_, i): [number, string, number] => [7, `p${i}`, i]),
  );
  expect(much.together("shop:p0").size).toBe(39);
  expect(much.together("shop:p50").size).toBe(0);
});

it("knows which choices are each reader's own, and says them in words", () => {
  expect(isPersonal(newChoice())).toBe(false);
  for (const change of [
    { order: "viewed" },
    { fill: "together" },
    { unbought: true },
    { match: { field: "place", reader: "site.name" } },
  ]) {
    expect(isPersonal(newChoice(change))).toBe(true);
    expect(isPersonal(newChoice({ ...change, picked: [] }))).toBe(false);
  }
  const match = { field: "place", reader: "site.name" };
  expect(refsOfChoice(newChoice({ match }))).toEqual(["contact:site.name"]);
  expect(refsOfChoice(newChoice({ match, picked: [] }))).toEqual([]);
  const words = (change: Partial<Choice>) => choiceWords(newChoice(change), () => "Title is “x”");
  expect(words({})).toBe("Newest first");
  expect(words({ picked: [] })).toBe("Picked by hand");
  expect(words({ order: "sold", days: 30, inStock: true, unbought: true })).toBe(
    "in stock, not bought by the reader · Best sold first (30 days)",
  );
  expect(words({ rule: { type: "all", rules: [] }, newerThan: 7, unsent: true, match })).toBe(
    "Title is “x”, the same as the reader’s, not older than 7 days, not sent before · Newest first",
  );
});
