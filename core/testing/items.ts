/** Items to test with. */
import { type EmailDocument, isItemList, walk } from "../document/index.ts";
import type { LiveItem } from "../items/index.ts";
import type { LiveList } from "../kinds/kind.ts";

export const anItem = (change: Partial<LiveItem> = {}): LiveItem => ({
  source: "shop",
  key: "k1",
  kind: "catalogue",
  title: "Broad bean",
  at: Date.UTC(2026, 4, 1),
  picture: null,
  values: {},
  ...change,
});

/** What an email shows where each of its blocks of items shows these. */
export const showing = (
  { root }: Pick<EmailDocument, "root">,
  items: readonly LiveItem[],
  perReader: LiveList["perReader"] = null,
): ReadonlyMap<string, LiveList> =>
  new Map(
    [...walk(root)]
      .filter(({ type }) => isItemList(type))
      .map(({ id }) => [id, { items, perReader }]),
  );

/** Items of a kind as the gallery shows them, the same on every day. */
export function itemsOf(kind: string, picture: string): LiveItem[] {
  const link = "https://larkmoor.example/there";
  const summary = "Tomatoes for eight years, parsnips for one. A list to pin up inside the door.";
  const all: Record<string, readonly Partial<LiveItem>[]> = {
    feed: [
      { title: "Seed that keeps, seed that does not", values: { link, summary } },
      { title: "Leeks in a dry year", values: { link, summary } },
      { title: "A bed that needs no digging", values: { link, summary } },
    ],
    catalogue: [
      {
        title: "Meadow mix",
        values: { link, summary, price: 6.8, stock: 12, categories: ["Seed"] },
      },
      {
        title: "Ash dibber",
        values: { link, summary, price: 12, stock: 3, categories: ["Tools"] },
      },
      {
        title: "Willow basket in a day",
        values: { link, summary, price: 60, sale_price: 45, stock: 5, categories: ["Workshops"] },
      },
    ],
    calendar: ["Willow baskets in a day", "The dawn chorus", "Dyeing with what grows here"].map(
      (title) => ({ title, values: { link, summary, place: "Larkmoor Hill", minutes: 120 } }),
    ),
  };
  return (all[kind] ?? []).map((item, i) =>
    anItem({ ...item, source: kind, key: `${kind}${i}`, kind, picture }),
  );
}
