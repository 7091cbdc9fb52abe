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
