/** Articles of feeds. */
import type { ItemKind } from "./kind.ts";

export const feed: ItemKind = {
  kind: "feed",
  source: "Feed",
  sources: "Feeds",
  item: "article",
  moment: "Published",
  fields: [
    { id: "link", label: "Link", type: "web" },
    { id: "summary", label: "Summary", type: "text" },
    { id: "author", label: "Author", type: "text" },
    { id: "categories", label: "Categories", type: "choices", options: [] },
    { id: "published", label: "Published", type: "date" },
  ],
  made: [],
};
