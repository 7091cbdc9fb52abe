/** Feeds on the web. */
import { FeedError, feedsOfPage, itemOfFeed, readFeed } from "#core/items/feeds/index.ts";
import { LIMITS } from "#core/limits.ts";
import type { SourceKind } from "./source.ts";

export const feed: SourceKind = {
  kind: "feed",
  // Any of its formats, then anything.
  accept:
    "application/rss+xml, application/atom+xml, application/feed+json, application/xml;q=0.9, */*;q=0.5",
  every: LIMITS.feedEvery,
  read({ bytes, address, contentType }, { now, zone }) {
    const { title, home, items } = readFeed(bytes, { address, contentType, now });
    return { title, home, items: items.map((item) => itemOfFeed(item, zone)), whole: false };
  },
  namedBy(page) {
    const [first] = feedsOfPage(page.bytes, page);
    if (first) return first.address;
    if (
      page.contentType.includes("html") ||
      /^\s*<(!doctype html|html)/i.test(page.bytes.toString("latin1", 0, 200))
    ) {
      throw new FeedError("This page names no feed. Give the address of the feed itself.");
    }
    return null;
  },
};
