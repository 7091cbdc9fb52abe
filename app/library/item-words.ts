/** What is said of an item in a line, by its kind. */
import { type Item, type LiveItem, liveItem, said } from "#core/items/index.ts";
import { priceOf } from "#core/items/kinds/catalogue.ts";
import { itemKindOf } from "#core/items/kinds/index.ts";
import { day } from "../ui/words.ts";

const sayMade = (item: LiveItem, id: string) =>
  itemKindOf(item.kind)
    .made.find((one) => one.id === id)
    ?.say(item, "en-GB") ?? "";

const WORDS: Readonly<Record<string, (item: LiveItem, now: Date, zone: string) => string[]>> = {
  feed: (item, now, zone) => [
    day(new Date(item.at), now, zone),
    said(item, "author"),
    said(item, "categories"),
  ],
  catalogue(item) {
    const stock = item.values.stock;
    const before = priceOf(item).before === null ? "" : `before ${sayMade(item, "before")}`;
    return [
      sayMade(item, "pays"),
      before,
      typeof stock === "number" ? (stock > 0 ? `${stock} left` : "sold out") : "",
      said(item, "categories"),
    ];
  },
  calendar: (item) => [sayMade(item, "when"), said(item, "place"), said(item, "categories")],
};

/** `source` is where the item stands, `kind` what it is. */
export function itemWords(
  source: { readonly id: string; readonly kind: string },
  item: Item,
  now: Date,
  zone: string,
): string {
  const live = liveItem(source.id, source.kind, item);
  return (WORDS[source.kind] ?? WORDS.feed!)(live, now, zone).filter(Boolean).join(" · ");
}
