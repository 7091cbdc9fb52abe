/** Feeds on the web. */
import { readFeed } from "#core/items/feeds/index.ts";
import type { SourceKind } from "./source.ts";

/** What a feed is asked for: any of its formats, then anything. */
export const ACCEPT =
  "application/rss+xml, application/atom+xml, application/feed+json, application/xml;q=0.9, */*;q=0.5";

export const feed: SourceKind = {
  kind: "feed",
  async read({ fetcher, clock }, { address, etag, lastModified }) {
    const found = await fetcher(address, { etag, lastModified, accept: ACCEPT });
    if (found.unchanged) return { items: null, etag, lastModified };
    const { items, home } = readFeed(found.bytes, {
      address: found.address,
      contentType: found.contentType,
      now: clock.now(),
    });
    return { items, home, etag: found.etag, lastModified: found.lastModified };
  },
};
