/**
 * Live content:
 * - `digest_merge_vs_static`: merging 10,000 readers of an email with a shelf of their own and a digest by rule, over
 *   the same email with fixed items (at most 2);
 * - `feed_parse_vs_library`: our whole reading of a feed of 500 items over its parser and the cleaning of each item's
 *   HTML alone (at most 1.2);
 * - `recommend_growth_10x`: counting 100,000 sales and choosing by them, over 10,000 (at most 12);
 * - `shelf_choose_vs_sql`: choosing for 10,000 readers, what they did read from the database, over one statement
 *   written by hand for the same (at most 1.5).
 */
import { generateRssFeed, parseFeed } from "feedsmith";
import { createBand, createBlock, createColumn } from "#core/blocks/index.ts";
import type { EmailDocument } from "#core/document/index.ts";
import { decodeText } from "#core/items/feeds/decode.ts";
import { readFeed } from "#core/items/feeds/index.ts";
import { readHtml } from "#core/items/feeds/words.ts";
import {
  countSales,
  type LiveItem,
  newChoice,
  type Past,
  planChoices,
  refOfItem,
  type Sale,
} from "#core/items/index.ts";
import { type LiveList, liveRef } from "#core/kinds/kind.ts";
import { mergeBytes, prepare, type Reader } from "#core/merge/index.ts";
import { chance } from "#core/random.ts";
import { compile } from "#core/render/index.ts";
import type { Sql } from "#server/db/database.ts";
import { pastsOf, salesBefore } from "#server/store/deeds.ts";
import { newsletter, readers, SURROUNDINGS } from "./newsletter.ts";
import { least, withDatabase } from "./people-database.ts";
import type { Figure } from "./run.ts";

const READERS = 10_000;
const DAY = 86_400_000;
const NOW = Date.UTC(2026, 5, 1);
const median = (list: number[]) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)]!;

const products = (count: number): LiveItem[] =>
  Array.from({ length: count }, (_, i) => ({
    ...{ source: "shop", key: `k${i}`, kind: "catalogue", picture: null },
    title: `Product ${i} of the shop`,
    at: NOW - i * DAY,
    values: {
      ...{ link: `https://shop.example/k${i}`, price: 2 + i, stock: 5, currency: "GBP" },
      categories: [`Group ${i % 12}`],
    },
  }));

/** The newsletter with a shelf and a digest under it. */
function withLists(personal: boolean): {
  email: EmailDocument;
  live: Map<string, LiveList>;
  shelf: string;
} {
  const email = newsletter(30, 12);
  let n = 0;
  const id = () => `l${++n}`;
  const shelf = createBlock("shelf", id);
  const digest = createBlock("digest", id);
  const band = createBand(id, [createColumn(id, [shelf, digest])]);
  const root = { ...email.root, children: [...email.root.children, band] };
  const pool = products(60);
  const own: LiveList = personal
    ? { items: pool, perReader: { standard: pool.slice(0, 3).map(refOfItem) } }
    : { items: pool.slice(0, 3), perReader: null };
  const live = new Map([
    [shelf.id, own],
    [digest.id, { items: pool.slice(10, 14), perReader: null }],
  ]);
  return { email: { ...email, root }, live, shelf: shelf.id };
}

function digestMerge(figure: Figure): void {
  const body = (personal: boolean) => {
    const { email, live } = withLists(personal);
    const compiled = compile(email, { ...SURROUNDINGS, live });
    return prepare(compiled, { links: "tracked", marks: false, sign: () => "-" }).html;
  };
  const { shelf } = withLists(true);
  const people = readers(READERS).map((reader, i): Reader => {
    // As many different choices as shops of this size have: some hundreds.
    const at = (i * 7) % 400;
    const own = [at % 60, (at * 3 + 1) % 60, (at * 11 + 2) % 60].map((k) => `shop:k${k}`);
    const values = { ...reader.values, [liveRef(shelf)]: [...new Set(own)] };
    return { values, token: `m${i.toString(36)}-abcdefghijklmnop` };
  });
  const [own, fixed] = [body(true), body(false)];
  const time = (of: typeof own) => {
    const start = performance.now();
    let bytes = 0;
    for (const reader of people) bytes += mergeBytes(of, reader).length;
    if (bytes === 0) throw new Error("Nothing was made");
    return performance.now() - start;
  };
  time(own);
  time(fixed);
  figure(
    "digest_merge_vs_static",
    median(Array.from({ length: 7 }, () => time(own) / time(fixed))),
  );
}

function feedParse(figure: Figure): void {
  const html = (i: number) =>
    `<p>Part ${i} <b>of</b> the <a href="https://notes.example/${i}">notebook</a>.</p>${"<p>Cold nights turn starch to sugar, and leaves to mould.</p>".repeat(6)}`;
  const rss = generateRssFeed({
    ...{ title: "Notes", link: "https://notes.example/", description: "Notes" },
    items: Array.from({ length: 500 }, (_, i) => ({
      ...{ title: `Note ${i}`, link: `https://notes.example/${i}`, guid: { value: `n${i}` } },
      ...{ description: html(i), categories: [{ name: "Soil" }], pubDate: new Date(NOW - i * DAY) },
    })),
  });
  const bytes = new TextEncoder().encode(rss);
  const ours = () => readFeed(bytes, { address: "https://notes.example/feed", now: new Date(NOW) });
  const alone = () => {
    const { feed } = parseFeed(decodeText(bytes));
    const items = (feed as { items?: { description?: string }[] }).items ?? [];
    return items.map(({ description = "" }) => readHtml(description));
  };
  // Several at a time, so that what is swept up falls on whoever made it.
  const time = (work: () => unknown) => {
    const start = performance.now();
    for (let i = 0; i < 8; i++) work();
    return performance.now() - start;
  };
  time(ours);
  time(alone);
  figure(
    "feed_parse_vs_library",
    median(Array.from({ length: 9 }, () => time(ours) / time(alone))),
  );
}

/** Sales of so many, by people who buy five things each. */
function salesOf(count: number, kinds: number): Sale[] {
  const luck = chance(7);
  return Array.from({ length: count }, (_, i) => ({
    who: luck.below(Math.ceil(count / 5)),
    item: `shop:k${Math.floor(luck.next() ** 1.6 * kinds)}`,
    at: NOW - Math.floor((i / count) * 365 * DAY),
  }));
}

function recommendGrowth(figure: Figure): void {
  const pool = products(300);
  const choice = newChoice({
    order: "together",
    fill: "sold",
    days: 365,
    unbought: true,
    count: 3,
  });
  const run = (sales: readonly Sale[]) => {
    const start = performance.now();
    const counts = countSales(sales, NOW);
    const world = { now: NOW, zone: "UTC", counts, sent: new Set<string>() };
    const plan = planChoices([{ node: "n", choice, pool }], world);
    const pasts = new Map<number, Past>();
    for (const { who, item, at } of sales) {
      const past = pasts.get(who) ?? { bought: [], viewed: [] };
      pasts.set(who, past);
      (past.bought as object[]).push({ item, title: item, category: null, at });
    }
    for (const past of pasts.values()) plan.forReader({ values: {}, past });
    return performance.now() - start;
  };
  const [few, many] = [salesOf(10_000, 300), salesOf(100_000, 300)];
  run(few);
  const times = (sales: readonly Sale[]) => median([run(sales), run(sales), run(sales)]);
  figure("recommend_growth_10x", times(many) / times(few));
}

/** One statement that gives each reader the three best sold that they have not bought. */
const byHand = (sql: Sql, from: Date) => sql`
  with sold as (select item, count(*) as n, max(at) as last from events
      where kind = 'bought' and at >= ${from} group by item),
    ranked as (select item, n, row_number() over (order by n desc, item) as place from sold)
  select c.id, array(
      select r.item from ranked r where not exists (select 1 from events e
        where e.contact_id = c.id and e.kind = 'bought' and e.item = r.item)
      order by r.place limit 3) as items
  from contacts c`;

async function chooseVsSql(figure: Figure): Promise<void> {
  await withDatabase(async ({ sql }) => {
    await sql`insert into contacts (email, email_key, email_folded, created_at, added)
      select 'p' || n || '@example.org', 'p' || n || '@example.org', 'p' || n || '@example.org', now(), '2026-01-01'
      from generate_series(1, ${READERS}::int) n`;
    const rows = salesOf(50_000, 300).map(({ who, item, at }) => ({
      who: who + 1,
      item,
      at: new Date(at),
    }));
    await sql`insert into events (kind, at, contact_id, item)
      select 'bought', r.at, c.id, r.item from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb)
        as r(who bigint, item text, at timestamptz)
      join (select id, row_number() over (order by id) as n from contacts) c on c.n = r.who`;
    await sql`analyze`;
    const now = new Date(NOW);
    const from = new Date(NOW - 365 * DAY);
    const pool = products(300);
    const choice = newChoice({ order: "sold", days: 365, unbought: true, count: 3 });
    const people = await sql<{ id: number }>`select id from contacts order by id`;
    const ours = async () => {
      const counts = countSales(await salesBefore(sql, now), NOW);
      const world = { now: NOW, zone: "UTC", counts, sent: new Set<string>() };
      const plan = planChoices([{ node: "n", choice, pool }], world);
      const pasts = await pastsOf(
        sql,
        people.map(({ id }) => id),
        now,
      );
      for (const { id } of people) {
        plan.forReader({ values: {}, past: pasts.get(id) ?? { bought: [], viewed: [] } });
      }
    };
    const hand = () => byHand(sql, from);
    figure("shelf_choose_vs_sql", (await least(4, ours)) / (await least(4, hand)));
  });
}

export async function liveGroup(figure: Figure): Promise<void> {
  feedParse(figure);
  digestMerge(figure);
  recommendGrowth(figure);
  await chooseVsSql(figure);
}
