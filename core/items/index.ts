/** Items of sources: what they are, and how those of feeds are read. */
export { type FoundFeed, feedsOfPage } from "./feeds/discover.ts";
export { FeedError } from "./feeds/error.ts";
export { type ReadFeed, readFeed } from "./feeds/read.ts";
export { FEED_FIELDS } from "./fields.ts";
export type { Item, NewItem } from "./item.ts";
