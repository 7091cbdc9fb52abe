/** Choosing items for an email: the candidates from the database, then the pure function of core. */
import { choicesIn, type NamedChoice } from "#core/blocks/choices.ts";
import type { EmailDocument } from "#core/document/index.ts";
import {
  type Choice,
  type ChoosingReader,
  type Chosen,
  countSales,
  type LiveItem,
  orderOf,
  type Past,
  type Plan,
  type Planned,
  planChoices,
  refOfItem,
} from "#core/items/index.ts";
import { type LiveList, liveRef } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import type { World } from "#core/rules/index.ts";
import type { Sql } from "../db/database.ts";
import { favouredKeys, pastsOf, salesBefore, sentBefore } from "../store/deeds.ts";
import { fittingItems, getItems } from "../store/items.ts";
import { getSources, type Source } from "../store/sources.ts";

/** Events that are over by less than this are still looked at: one may last for days. */
const LOOK_BACK_MS = 31 * 86_400_000;

type ChoosingNow = Pick<World, "now" | "names"> & {
  readonly zone: string;
  /** The campaign that is made: what it has sent itself is not sent before. */
  readonly campaign: string | null;
};

/** Of the items of a source that fit, those that can come first in any of the orders that are asked for. */
async function candidates(
  sql: Sql,
  source: Source,
  choice: Choice,
  world: ChoosingNow,
): Promise<LiveItem[]> {
  const orders = [choice.order, ...(choice.fill === null ? [] : [choice.fill])].map(orderOf);
  const { at: now } = world.now;
  const limit = LIMITS.choicePool;
  const since = source.kind === "calendar" ? new Date(now.getTime() - LOOK_BACK_MS) : null;
  const ways = new Set(
    orders.map(({ id }) =>
      id === "soonest" || id === "oldest" ? "oldest" : id === "title" ? "title" : "newest",
    ),
  );
  const found: LiveItem[] = [];
  for (const best of ways as Set<"newest" | "oldest" | "title">) {
    const asked = { best, limit, since, inStock: choice.inStock };
    found.push(...(await fittingItems(sql, source, choice.rule, world, asked)));
  }
  if (orders.some(({ personal, looksBack }) => personal || looksBack)) {
    const among = await favouredKeys(sql, source.id, now, limit);
    const asked = { best: "newest", limit, among, inStock: choice.inStock } as const;
    found.push(...(await fittingItems(sql, source, choice.rule, world, asked)));
  }
  if (orders.some(({ id }) => id === "reduced")) {
    const reduced = { type: "field", field: "sale_price", op: "hasValue", argument: null } as const;
    const rule = choice.rule ? ({ type: "all", rules: [choice.rule, reduced] } as const) : reduced;
    const asked = { best: "newest", limit, inStock: choice.inStock } as const;
    found.push(...(await fittingItems(sql, source, rule, world, asked)));
  }
  return found;
}

/** Plans the choices of an email as of a moment. */
export async function planFor(
  sql: Sql,
  choices: readonly NamedChoice[],
  world: ChoosingNow,
): Promise<Plan> {
  const at = world.now.at;
  const sources = choices.length > 0 ? await getSources(sql) : [];
  const planned: Planned[] = [];
  for (const { node, kind, choice } of choices) {
    if (choice.picked) {
      planned.push({ node, choice, pool: [...(await getItems(sql, choice.picked)).values()] });
      continue;
    }
    const pool = new Map<string, LiveItem>();
    const asked = sources.filter(
      (one) =>
        one.kind === kind && (choice.sources.length === 0 || choice.sources.includes(one.id)),
    );
    for (const source of asked) {
      for (const item of await candidates(sql, source, choice, world)) {
        pool.set(refOfItem(item), item);
      }
    }
    planned.push({ node, choice, pool: [...pool.values()] });
  }
  const counted = choices.some(({ choice: { picked, order, fill } }) => {
    const orders = [order, ...(fill === null ? [] : [fill])].map(orderOf);
    return !picked && orders.some(({ personal, looksBack }) => personal || looksBack);
  });
  return planChoices(planned, {
    now: at.getTime(),
    zone: world.zone,
    counts: countSales(counted ? await salesBefore(sql, at) : [], at.getTime()),
    sent: choices.some(({ choice }) => choice.unsent)
      ? await sentBefore(
          sql,
          sources.map(({ id }) => id),
          world.campaign,
        )
      : new Set(),
  });
}

/** What an email shows of its sources, for rendering it for anybody. */
export async function liveLists(
  sql: Sql,
  choices: readonly NamedChoice[],
  world: ChoosingNow,
): Promise<Map<string, LiveList>> {
  if (choices.length === 0) return new Map();
  const plan = await planFor(sql, choices, world);
  const standard = plan.forReader(null);
  const fixed = [...plan.fixed].map(([node, chosen]): [string, LiveList] => [
    node,
    { items: chosen.map(({ item }) => item), perReader: null },
  ]);
  const own = [...plan.personal].map(([node, items]): [string, LiveList] => [
    node,
    { items, perReader: { standard: refsOf(standard.get(node)) } },
  ]);
  return new Map([...fixed, ...own]);
}

const refsOf = (chosen: readonly Chosen[] = []): string[] =>
  chosen.map(({ item }) => refOfItem(item));

const NO_PAST: Past = { bought: [], viewed: [] };

/** A reader whose items are chosen: their id, and the values that are merged for them. */
export interface ItemsReader {
  readonly id: number;
  readonly values: ChoosingReader["values"];
}

/** Chooses the items that readers have of their own, out of what an email shows. */
export interface OwnItems {
  /** By reader and node. */
  choose(
    sql: Sql,
    readers: readonly ItemsReader[],
  ): Promise<Map<number, Map<string, readonly Chosen[]>>>;
  /** The same as values by `liveRef`. */
  values(sql: Sql, readers: readonly ItemsReader[]): Promise<Map<number, Record<string, string[]>>>;
}

/**
 * Makes what chooses for readers, as of a moment; null where nobody has anything of their own. What is sold is counted
 * once for all of them.
 */
export async function ownItems(
  sql: Sql,
  doc: Pick<EmailDocument, "root">,
  live: ReadonlyMap<string, LiveList> | undefined,
  now: Date,
  zone: string,
): Promise<OwnItems | null> {
  const choices = choicesIn(doc);
  if (!live || !choices.some(({ node }) => live.get(node)?.perReader)) return null;
  const planned = choices.map(({ node, choice }): Planned => {
    const { items, perReader } = live.get(node) ?? { items: [], perReader: null };
    return {
      node,
      pool: items,
      choice: perReader
        ? choice
        : { ...choice, picked: items.map((one) => ({ source: one.source, key: one.key })) },
    };
  });
  const counts = countSales(await salesBefore(sql, now), now.getTime());
  const plan = planChoices(planned, { now: now.getTime(), zone, counts, sent: new Set() });
  const choose: OwnItems["choose"] = async (db, readers) => {
    const pasts = await pastsOf(
      db,
      readers.map(({ id }) => id),
      now,
    );
    return new Map(
      readers.map(({ id, values }) => [
        id,
        plan.forReader({ values, past: pasts.get(id) ?? NO_PAST }),
      ]),
    );
  };
  return {
    choose,
    async values(db, readers) {
      const chosen = await choose(db, readers);
      return new Map(
        [...chosen].map(([id, byNode]) => [
          id,
          Object.fromEntries([...byNode].map(([node, items]) => [liveRef(node), refsOf(items)])),
        ]),
      );
    },
  };
}

/** What each block shows a reader, and why. */
export async function chosenFor(
  sql: Sql,
  choices: readonly NamedChoice[],
  reader: ItemsReader | null,
  world: ChoosingNow,
): Promise<Map<string, readonly Chosen[]>> {
  if (choices.length === 0) return new Map();
  const plan = await planFor(sql, choices, world);
  const past = reader && (await pastsOf(sql, [reader.id], world.now.at)).get(reader.id);
  const own = plan.forReader(reader && { values: reader.values, past: past ?? NO_PAST });
  return new Map([...plan.fixed, ...own]);
}

/** How many different choices some readers get at a block, and how many of them less than was asked for, or nothing. */
export interface Spread {
  readonly readers: number;
  readonly different: number;
  readonly fewer: number;
  readonly none: number;
}

/** Counts what readers get at a block where each has items of their own. */
export async function spreadOf(
  sql: Sql,
  choices: readonly NamedChoice[],
  node: string,
  readers: readonly ItemsReader[],
  world: ChoosingNow,
): Promise<Spread> {
  const plan = await planFor(sql, choices, world);
  const asked = choices.find((one) => one.node === node)?.choice.count ?? 0;
  const pasts = await pastsOf(
    sql,
    readers.map(({ id }) => id),
    world.now.at,
  );
  const seen = new Set<string>();
  let [fewer, none] = [0, 0];
  for (const { id, values } of readers) {
    const chosen = plan.forReader({ values, past: pasts.get(id) ?? NO_PAST }).get(node) ?? [];
    seen.add(refsOf(chosen).join("\n"));
    if (chosen.length === 0) none++;
    else if (chosen.length < asked) fewer++;
  }
  return { readers: readers.length, different: seen.size, fewer, none };
}
