/** Plain counting over what was bought: what sells, and what is bought together. The same at every run. */
import type { Counts } from "./orders.ts";

/** Somebody bought something. */
export interface Sale {
  /** A number of whoever bought it. */
  readonly who: number;
  /** The item, by `itemRef`. */
  readonly item: string;
  /** ms since 1970 */
  readonly at: number;
}

const DAY_MS = 86_400_000;
/** Of what one buyer bought so many different things are counted together, the newest: a shop's own account is no taste. */
const BASKET = 40;
const NONE: ReadonlyMap<string, number> = new Map();

/** What each buyer bought, each thing once. `sales` are in the order of time, the newest first. */
function baskets(sales: readonly Sale[]): Map<number, string[]> {
  const found = new Map<number, string[]>();
  for (const { who, item } of sales) {
    const basket = found.get(who);
    if (!basket) found.set(who, [item]);
    else if (basket.length < BASKET && !basket.includes(item)) basket.push(item);
  }
  return found;
}

function pairs(sales: readonly Sale[]): Map<string, Map<string, number>> {
  const counted = new Map<string, Map<string, number>>();
  const count = (a: string, b: string) => {
    let others = counted.get(a);
    if (!others) {
      others = new Map();
      counted.set(a, others);
    }
    others.set(b, (others.get(b) ?? 0) + 1);
  };
  for (const basket of baskets(sales).values()) {
    for (let i = 0; i < basket.length; i++) {
      for (let j = i + 1; j < basket.length; j++) {
        count(basket[i]!, basket[j]!);
        count(basket[j]!, basket[i]!);
      }
    }
  }
  return counted;
}

/** Of what is bought besides a thing so much counts, the most: the rest is chance. */
const PARTNERS = 40;
const mostOf = (counted: ReadonlyMap<string, number>): ReadonlyMap<string, number> =>
  counted.size <= PARTNERS
    ? counted
    : new Map(
        [...counted]
          .sort(([a, x], [b, y]) => y - x || (a < b ? -1 : a > b ? 1 : 0))
          .slice(0, PARTNERS),
      );

/** Counts sales (the newest first) as of a moment, each question once. */
export function countSales(sales: readonly Sale[], now: number): Counts {
  const sold = new Map<number, Map<string, number>>();
  let together: Map<string, Map<string, number>> | null = null;
  const partners = new Map<string, ReadonlyMap<string, number>>();
  return {
    sold(days) {
      let counted = sold.get(days);
      if (!counted) {
        counted = new Map();
        const since = now - days * DAY_MS;
        for (const { item, at } of sales) {
          if (at >= since && at <= now) counted.set(item, (counted.get(item) ?? 0) + 1);
        }
        sold.set(days, counted);
      }
      return counted;
    },
    together(item) {
      together ??= pairs(sales.filter(({ at }) => at <= now));
      let most = partners.get(item);
      if (!most) {
        most = mostOf(together.get(item) ?? NONE);
        partners.set(item, most);
      }
      return most;
    },
  };
}
