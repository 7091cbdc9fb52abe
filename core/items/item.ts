/** Items: what a source brings, whatever it is a source of. */
import { z } from "zod";
import type { Values } from "../fields/index.ts";
import type { Json } from "../json.ts";
import { LIMITS } from "../limits.ts";

/** An item as its source tells it. */
export interface NewItem {
  /** By which it is known again: unique in its source. */
  readonly key: string;
  readonly title: string;
  /** Its moment: when it came out, or when it begins; null where nobody says. */
  readonly at: Date | null;
  /** The address of its picture (http or https), or empty. */
  readonly picture: string;
  /** What its source tells beside, by the ids of the fields of its kind. */
  readonly values: Values;
}

/** An item as it is kept. */
export interface Item extends Omit<NewItem, "at" | "picture"> {
  readonly id: number;
  /** Its moment, or where nobody says, when it was first seen. */
  readonly at: Date;
  /** Its picture in the library of pictures; null where it has none, or none that could be taken. */
  readonly picture: { readonly id: string; readonly file: string } | null;
}

/** An item as an email shows it, and rules see it. */
export interface LiveItem {
  readonly source: string;
  readonly key: string;
  /** The kind of its source. */
  readonly kind: string;
  readonly title: string;
  /** Its moment, ms since 1970. */
  readonly at: number;
  /** The id of its picture. */
  readonly picture: string | null;
  readonly values: Readonly<Record<string, Json>>;
}

export const liveItem = (source: string, kind: string, item: Item): LiveItem => ({
  source,
  key: item.key,
  kind,
  title: item.title,
  at: item.at.getTime(),
  picture: item.picture?.id ?? null,
  values: item.values as Readonly<Record<string, Json>>,
});

/** What an item that was kept with an email is. */
export const liveItemSchema: z.ZodType<LiveItem> = z.object({
  source: z.string(),
  key: z.string(),
  kind: z.string(),
  title: z.string(),
  at: z.number(),
  picture: z.string().nullable(),
  values: z.record(z.string(), z.json()) as z.ZodType<Record<string, Json>>,
});

/** A value of an item in words, as it is kept; empty where it has none. */
export function said({ values }: Pick<Item, "values">, field: string): string {
  const value = values[field];
  if (value === null || value === undefined) return "";
  if (Array.isArray(value)) return value.join(", ");
  return typeof value === "object" ? "" : String(value);
}

/** What an article takes from an item. */
export const toldItemSchema = z.strictObject({
  title: z.string().max(LIMITS.itemTitle),
  summary: z.string().max(LIMITS.itemSummary),
  link: z.string().max(LIMITS.webAddressLength),
  /** The id of its picture. */
  picture: z.string().nullable(),
});
export type ToldItem = z.infer<typeof toldItemSchema>;

export const toldItem = (
  item: Pick<LiveItem, "title" | "picture"> & Pick<Item, "values">,
): ToldItem => ({
  title: item.title,
  summary: said(item, "summary"),
  link: said(item, "link"),
  picture: item.picture,
});

/** How an item is named among those of all sources. */
export const itemRef = (source: string, key: string): string => `${source}:${key}`;
export const refOfItem = ({ source, key }: Pick<LiveItem, "source" | "key">): string =>
  itemRef(source, key);
