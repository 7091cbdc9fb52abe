/** Items: what a source brings, whatever it is a source of. */
import { z } from "zod";
import { LIMITS } from "../limits.ts";

/** An item as its source tells it. */
export interface NewItem {
  /** By which it is known again: unique in its source. */
  readonly key: string;
  readonly title: string;
  /** Where it stands (http or https), or empty. */
  readonly link: string;
  /** In plain words, or empty. */
  readonly summary: string;
  readonly author: string;
  readonly categories: readonly string[];
  /** When it came out; null where nobody says. */
  readonly published: Date | null;
  /** The address of its picture (http or https), or empty. */
  readonly picture: string;
}

/** An item as it is kept. */
export interface Item extends Omit<NewItem, "published" | "picture"> {
  readonly id: number;
  /** When it came out, or where nobody says, when it was first seen. */
  readonly published: Date;
  /** Its picture in the library of pictures; null where it has none, or none that could be taken. */
  readonly picture: { readonly id: string; readonly file: string } | null;
}

/** What an email takes from an item. */
export const toldItemSchema = z.strictObject({
  title: z.string().max(LIMITS.itemTitle),
  summary: z.string().max(LIMITS.itemSummary),
  link: z.string().max(LIMITS.webAddressLength),
  /** The id of its picture. */
  picture: z.string().nullable(),
});
export type ToldItem = z.infer<typeof toldItemSchema>;

export const toldItem = ({ title, summary, link, picture }: Item): ToldItem => ({
  title,
  summary,
  link,
  picture: picture?.id ?? null,
});

/** How an item is named among those of all sources. */
export const itemRef = (source: string, key: string): string => `${source}:${key}`;
