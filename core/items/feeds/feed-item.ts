/** An item as a feed tells it. */
import { dayIn } from "../../schedule/day.ts";
import type { NewItem } from "../item.ts";

export interface FeedItem {
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

/** The same as an item of a source; days are those of a zone. */
export const itemOfFeed = (item: FeedItem, zone: string): NewItem => {
  const { key, title, link, summary, author, categories, published, picture } = item;
  const day = published && dayIn(published, zone);
  const values = { link, summary, author, categories: [...categories], published: day };
  return { key, title, at: published, picture, values };
};
