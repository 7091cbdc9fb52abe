/** The fields of items that come from a feed: rules and merge tags name them by these ids. */
import type { Field } from "../fields/index.ts";

export const FEED_FIELDS: readonly Field[] = [
  { id: "link", label: "Link", type: "web" },
  { id: "summary", label: "Summary", type: "text" },
  { id: "author", label: "Author", type: "text" },
  { id: "categories", label: "Categories", type: "choices", options: [] },
  { id: "published", label: "Published", type: "date" },
];
