/**
 * What comes first where items are chosen. A new way is an object here and a line in `ORDERS`. All of them are plain
 * counting, with the newer and then the key to settle ties, so that the same items, reader and clock give the same.
 */
import { dayAndYear, dayIn } from "../schedule/day.ts";
import { type LiveItem, refOfItem } from "./item.ts";
import { reductionOf } from "./kinds/catalogue.ts";

/** Something a reader looked at or bought. */
export interface Deed {
  /** The item, by `itemRef`. */
  readonly item: string;
  readonly title: string;
  readonly category: string | null;
  /** ms since 1970 */
  readonly at: number;
}

/** What a reader did with items, the newest first. */
export interface Past {
  readonly bought: readonly Deed[];
  readonly viewed: readonly Deed[];
}

/** What everybody did, counted. */
export interface Counts {
  /** How often each item was bought within so many days. */
  sold(days: number): ReadonlyMap<string, number>;
  /** How many people bought others than an item besides it, by item. */
  together(item: string): ReadonlyMap<string, number>;
}

/** An item with why it is where it is, in words. */
export interface Ranked {
  readonly item: LiveItem;
  readonly why: string;
}

export interface RankedBy {
  /** How many days back it looks, where it does. */
  readonly days: number;
  /** ms since 1970 */
  readonly now: number;
  readonly zone: string;
  readonly counts: Counts;
}

export interface Order {
  readonly id: string;
  readonly label: string;
  /** The kinds of items it is for; all where none are named. */
  readonly kinds?: readonly string[];
  /** It comes out differently for each reader. */
  readonly personal?: true;
  /** It looks back so many days, which are asked for. */
  readonly looksBack?: true;
  /** Ranks a pool, once for many readers; those without anything that speaks for them are left out. */
  rank(pool: readonly LiveItem[], by: RankedBy): (past: Past | null) => readonly Ranked[];
}

const DAY_MS = 86_400_000;
const byKey = (a: LiveItem, b: LiveItem) =>
  refOfItem(a) < refOfItem(b) ? -1 : refOfItem(a) > refOfItem(b) ? 1 : 0;
const newerFirst = (a: LiveItem, b: LiveItem) => b.at - a.at || byKey(a, b);

/** The same for everybody: sorted once. */
function fixed(
  compare: (a: LiveItem, b: LiveItem) => number,
  why: (item: LiveItem) => string,
): Order["rank"] {
  return (pool) => {
    const ranked = pool.toSorted(compare).map((item) => ({ item, why: why(item) }));
    return () => ranked;
  };
}

const newest: Order = { id: "newest", label: "Newest first", rank: fixed(newerFirst, () => "new") };

const soonest: Order = {
  id: "soonest",
  label: "Soonest first",
  kinds: ["calendar"],
  rank: fixed(
    (a, b) => a.at - b.at || byKey(a, b),
    () => "soon",
  ),
};

const oldest: Order = {
  id: "oldest",
  label: "Oldest first",
  rank: fixed(
    (a, b) => a.at - b.at || byKey(a, b),
    () => "first",
  ),
};

const byTitle: Order = {
  id: "title",
  label: "By title",
  rank: fixed(
    (a, b) => (a.title < b.title ? -1 : a.title > b.title ? 1 : byKey(a, b)),
    () => "by its title",
  ),
};

const reduced: Order = {
  id: "reduced",
  label: "Most reduced first",
  kinds: ["catalogue"],
  rank(pool) {
    const ranked = pool
      .filter((item) => reductionOf(item) > 0)
      .sort((a, b) => reductionOf(b) - reductionOf(a) || newerFirst(a, b))
      .map((item) => ({ item, why: `${reductionOf(item)} % off` }));
    return () => ranked;
  },
};

const sold: Order = {
  id: "sold",
  label: "Best sold first",
  kinds: ["catalogue"],
  looksBack: true,
  rank(pool, { counts, days }) {
    const counted = counts.sold(days);
    const of = (item: LiveItem) => counted.get(refOfItem(item)) ?? 0;
    const ranked = pool
      .filter((item) => of(item) > 0)
      .sort((a, b) => of(b) - of(a) || newerFirst(a, b))
      .map((item) => ({ item, why: `sold ${of(item)} times in ${days} days` }));
    return () => ranked;
  },
};

const refsOf = (pool: readonly LiveItem[]) => new Map(pool.map((item) => [refOfItem(item), item]));

const viewed: Order = {
  id: "viewed",
  label: "Lately looked at by the reader",
  kinds: ["catalogue"],
  personal: true,
  looksBack: true,
  rank(pool, { days, now, zone }) {
    const known = refsOf(pool);
    const since = now - days * DAY_MS;
    return (past) => {
      const found = new Map<LiveItem, Ranked>();
      for (const { item: ref, at } of past?.viewed ?? []) {
        const item = known.get(ref);
        if (!item || at < since || at > now || found.has(item)) continue;
        found.set(item, { item, why: `looked at on ${dayAndYear(dayIn(new Date(at), zone))}` });
      }
      return [...found.values()];
    };
  },
};

/** Of what a reader bought so many are looked at, the newest. */
const BOUGHT = 50;

const together: Order = {
  id: "together",
  label: "Bought together with what the reader bought",
  kinds: ["catalogue"],
  personal: true,
  rank(pool, { counts }) {
    const known = refsOf(pool);
    return (past) => {
      const scores = new Map<LiveItem, { score: number; most: number; with: string }>();
      const seen = new Set<string>();
      for (const { item: ref, title } of past?.bought ?? []) {
        if (seen.has(ref)) continue;
        if (seen.size === BOUGHT) break;
        seen.add(ref);
        for (const [other, people] of counts.together(ref)) {
          const item = known.get(other);
          if (!item) continue;
          const before = scores.get(item);
          if (!before) scores.set(item, { score: people, most: people, with: title });
          else {
            before.score += people;
            if (people > before.most) {
              before.most = people;
              before.with = title;
            }
          }
        }
      }
      return [...scores]
        .sort(([a, { score: x }], [b, { score: y }]) => y - x || newerFirst(a, b))
        .map(([item, { with: title }]) => ({ item, why: `often bought with “${title}”` }));
    };
  },
};

const categoriesOf = ({ values }: LiveItem): readonly string[] =>
  Array.isArray(values.categories) ? (values.categories as string[]) : [];

const favourite: Order = {
  id: "favourite",
  label: "In the reader’s favourite categories",
  kinds: ["catalogue"],
  personal: true,
  looksBack: true,
  rank(pool, { counts, days, now }) {
    const counted = counts.sold(days);
    const of = (item: LiveItem) => counted.get(refOfItem(item)) ?? 0;
    const shelves = new Map<string, LiveItem[]>();
    for (const item of pool.toSorted((a, b) => of(b) - of(a) || newerFirst(a, b))) {
      for (const category of categoriesOf(item)) {
        const shelf = shelves.get(category);
        if (shelf) shelf.push(item);
        else shelves.set(category, [item]);
      }
    }
    const since = now - days * DAY_MS;
    return (past) => {
      const weights = new Map<string, number>();
      for (const deeds of [past?.bought ?? [], past?.viewed ?? []]) {
        for (const { category, at } of deeds) {
          if (category !== null && at >= since && at <= now && shelves.has(category)) {
            weights.set(category, (weights.get(category) ?? 0) + 1);
          }
        }
      }
      const liked = [...weights].sort(([a, x], [b, y]) => y - x || (a < b ? -1 : 1));
      const found = new Map<LiveItem, Ranked>();
      for (const [category] of liked) {
        for (const item of shelves.get(category)!) {
          if (!found.has(item)) found.set(item, { item, why: `in “${category}”, a favourite` });
        }
      }
      return [...found.values()];
    };
  },
};

export const ORDERS: readonly Order[] = [
  newest,
  soonest,
  oldest,
  byTitle,
  sold,
  reduced,
  viewed,
  together,
  favourite,
];
const byId = new Map(ORDERS.map((one) => [one.id, one]));
export const orderOf = (id: string): Order => byId.get(id) ?? newest;
/** The orders there are for a kind of items. */
export const ordersFor = (kind: string): readonly Order[] =>
  ORDERS.filter(({ kinds }) => !kinds || kinds.includes(kind));
