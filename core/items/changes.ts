/** What has become of items between the proof and the send. */
import type { LiveItem } from "./item.ts";
import { refOfItem, said } from "./item.ts";
import { inStock, itemMoney, priceOf } from "./kinds/catalogue.ts";
import { itemKindOf } from "./kinds/index.ts";

/** What can become of an item, and how that is called where one says what stops a send. */
export const CHANGES = {
  price: "a price has changed",
  stock: "something is sold out",
  gone: "something is gone from its source",
  past: "an event is over",
  words: "words, links or images have changed",
} as const;
export type ItemChangeKind = keyof typeof CHANGES;
export const CHANGE_KINDS = Object.keys(CHANGES) as [ItemChangeKind, ...ItemChangeKind[]];

export interface ItemChange {
  readonly kind: ItemChangeKind;
  /** A sentence. */
  readonly words: string;
}

const price = (item: LiveItem) => {
  const { now } = priceOf(item);
  return now === null ? "nothing" : itemMoney(item, now, "en-GB");
};

/** What of an item, as it was shown, is otherwise now (undefined: it is not there any more). `at` is the moment, ms. */
export function changesOf(before: LiveItem, now: LiveItem | undefined, at: number): ItemChange[] {
  const name = `“${before.title}”`;
  const found: ItemChange[] = [];
  const ends = itemKindOf(before.kind).ends?.(now ?? before);
  if (ends !== undefined && ends !== null && ends < at) {
    return [{ kind: "past", words: `${name} is over.` }];
  }
  if (!now) return [{ kind: "gone", words: `${name} is gone from its source.` }];
  if (before.kind === "catalogue") {
    const [was, is] = [priceOf(before), priceOf(now)];
    if (was.now !== is.now || was.before !== is.before) {
      found.push({ kind: "price", words: `${name} costs ${price(now)}, not ${price(before)}.` });
    }
    if (inStock(before) && !inStock(now)) {
      found.push({ kind: "stock", words: `${name} is sold out.` });
    }
  }
  const moved = before.kind === "calendar" && before.at !== now.at;
  const others =
    before.title !== now.title ||
    before.picture !== now.picture ||
    ["summary", "link", "place"].some((field) => said(before, field) !== said(now, field));
  if (moved) found.push({ kind: "words", words: `${name} takes place at another time.` });
  else if (others)
    found.push({ kind: "words", words: `${name} has other words, a link or an image.` });
  return found;
}

/** The same for many, each once; `now` has them by `itemRef`. */
export function allChanges(
  before: Iterable<LiveItem>,
  now: ReadonlyMap<string, LiveItem>,
  at: number,
): ItemChange[] {
  const seen = new Set<string>();
  return [...before].flatMap((item) => {
    const ref = refOfItem(item);
    if (seen.has(ref)) return [];
    seen.add(ref);
    return changesOf(item, now.get(ref), at);
  });
}
