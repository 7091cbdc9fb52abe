/** The kinds of items there are. A new one is a file beside this one and a line here. */
import { calendar } from "./calendar.ts";
import { catalogue } from "./catalogue.ts";
import { feed } from "./feed.ts";
import type { ItemKind, ItemTag } from "./kind.ts";

export const ITEM_KINDS: readonly ItemKind[] = [feed, catalogue, calendar];
const byKind = new Map(ITEM_KINDS.map((one) => [one.kind, one]));

/** What items of a kind are; those of a kind nobody knows any more are read as articles are. */
export const itemKindOf = (kind: string): ItemKind => byKind.get(kind) ?? feed;

/** How the sources of a kind stand in addresses. */
export const slugOf = ({ sources }: ItemKind): string => sources.toLowerCase();
/** The kind whose sources stand under this in addresses; null for none. */
export const kindBySlug = (slug: string): ItemKind | null =>
  ITEM_KINDS.find((one) => slugOf(one) === slug) ?? null;

const TITLE: ItemTag = { id: "title", label: "Title", say: ({ title }) => title };
/** What of a kind stands in texts by its made words alone. */
export const tagsOfKind = ({ made }: ItemKind): readonly ItemTag[] => [TITLE, ...made];

export type { ItemKind, ItemTag };
