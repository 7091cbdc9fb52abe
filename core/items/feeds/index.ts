/** Reading feeds: by themselves, since what reads them is large. */
export { type FoundFeed, feedsOfPage } from "./discover.ts";
export { FeedError } from "./error.ts";
export { type FeedItem, itemOfFeed } from "./feed-item.ts";
export { type ReadFeed, readFeed } from "./read.ts";
