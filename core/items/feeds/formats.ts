/**
 * The formats of feeds: what each calls the parts of an item. RSS 2.0, RSS 1.0 (RDF), Atom (RFC 4287) and JSON Feed
 * 1.1, with the common additions (Dublin Core, `content:encoded`, Media RSS). A new one is a function and a line.
 */
import { type AtomFeed, type JsonFeed, parseFeed, type RdfFeed, type RssFeed } from "feedsmith";

/** An item in the words of its format: HTML and addresses as they are written there, the best first. */
export interface Told {
  readonly ids: readonly (string | undefined)[];
  readonly titles: readonly (string | undefined)[];
  readonly links: readonly (string | undefined)[];
  /** What it says of itself in short, else all of it. */
  readonly summaries: readonly (string | undefined)[];
  readonly authors: readonly (string | undefined)[];
  readonly categories: readonly (string | undefined)[];
  readonly dates: readonly (string | undefined)[];
  readonly pictures: readonly (string | undefined)[];
}

export interface ToldFeed {
  readonly title: string | undefined;
  /** The page it belongs to. */
  readonly home: string | undefined;
  /** What its addresses are relative to, where it says so. */
  readonly base: string | undefined;
  readonly items: readonly Told[];
}

interface Media {
  contents?: { url?: string; medium?: string; type?: string }[];
  thumbnails?: { url?: string }[];
  group?: Media;
  groups?: Media[];
}

const isImage = (type: string | undefined, url: string | undefined) =>
  type ? type.startsWith("image/") : /\.(?:jpe?g|png|gif|webp|avif)(?:[?#]|$)/i.test(url ?? "");

/** Pictures of Media RSS: contents before thumbnails. */
function mediaPictures(media: Media | undefined): (string | undefined)[] {
  if (!media) return [];
  const own = (media.contents ?? [])
    .filter(({ medium, type, url }) => (medium ? medium === "image" : isImage(type, url)))
    .map(({ url }) => url);
  const inner = [...(media.groups ?? []), ...(media.group ? [media.group] : [])];
  const thumbnails = (media.thumbnails ?? []).map(({ url }) => url);
  return [...own, ...inner.flatMap(mediaPictures), ...thumbnails];
}

/** `person@example.org (Ann Poe)` is Ann Poe (RSS 2.0). */
const nameOf = (author: string | undefined) => /\(([^)]+)\)\s*$/.exec(author ?? "")?.[1] ?? author;

function rss({ items = [], ...feed }: RssFeed.Feed<string>): ToldFeed {
  return {
    title: feed.title,
    home: feed.link,
    base: undefined,
    items: items.map((item) => ({
      ids: [item.guid?.value],
      titles: [item.title, item.dc?.titles?.[0]],
      links: [item.link, item.guid?.isPermaLink === false ? undefined : item.guid?.value],
      summaries: [item.description, item.content?.encoded, item.itunes?.summary],
      authors: [
        ...(item.dc?.creators ?? []),
        ...(item.authors ?? []).map((one) => nameOf(typeof one === "string" ? one : one.name)),
      ],
      categories: [
        ...(item.categories ?? []).map(({ name }) => name),
        ...(item.dc?.subjects ?? []),
      ],
      dates: [item.pubDate, ...(item.dc?.dates ?? [])],
      pictures: [
        ...mediaPictures(item.media as Media | undefined),
        ...(item.enclosures ?? [])
          .filter(({ type, url }) => isImage(type, url))
          .map(({ url }) => url),
        item.itunes?.image,
      ],
    })),
  };
}

function rdf({ items = [], ...feed }: RdfFeed.Feed<string>): ToldFeed {
  return {
    title: feed.title,
    home: feed.link,
    base: undefined,
    items: items.map((item) => ({
      ids: [item.rdf?.about],
      titles: [item.title],
      links: [item.link, item.rdf?.about],
      summaries: [item.description, item.content?.encoded],
      authors: item.dc?.creators ?? [],
      categories: item.dc?.subjects ?? [],
      dates: item.dc?.dates ?? [],
      pictures: mediaPictures(item.media as Media | undefined),
    })),
  };
}

type Text = string | { value?: string; type?: string } | undefined;
/** A text construct of Atom as HTML: plain text has its markup escaped (RFC 4287, 3.1). */
function asHtml(text: Text): string | undefined {
  if (typeof text === "string" || !text) return text;
  return text.type === "html" || text.type === "xhtml"
    ? text.value
    : text.value?.replaceAll("&", "&amp;").replaceAll("<", "&lt;");
}

function atom({ entries = [], ...feed }: AtomFeed.Feed<string>): ToldFeed {
  const alternate = (links: typeof feed.links = []) =>
    links.find(({ rel = "alternate" }) => rel === "alternate")?.href;
  return {
    title: asHtml(feed.title as Text),
    home: alternate(feed.links),
    base: (feed as { xml?: { base?: string } }).xml?.base,
    items: entries.map((entry) => ({
      ids: [entry.id],
      titles: [asHtml(entry.title as Text)],
      links: [alternate(entry.links)],
      summaries: [asHtml(entry.summary as Text), asHtml(entry.content as Text)],
      authors: (entry.authors ?? feed.authors ?? []).map(({ name }) => name),
      categories: (entry.categories ?? []).map(({ label, term }) => label ?? term),
      dates: [entry.published, entry.updated],
      pictures: [
        ...mediaPictures(entry.media as Media | undefined),
        ...(entry.links ?? [])
          .filter(({ rel, type, href }) => rel === "enclosure" && isImage(type, href))
          .map(({ href }) => href),
      ],
    })),
  };
}

function json({ items = [], ...feed }: JsonFeed.Feed<string>): ToldFeed {
  const plain = (text: string | undefined) => asHtml({ value: text, type: "text" });
  return {
    title: plain(feed.title),
    home: feed.home_page_url,
    base: feed.feed_url,
    items: items.map((item) => ({
      ids: [item.id],
      titles: [plain(item.title)],
      links: [item.url, item.external_url],
      summaries: [plain(item.summary), item.content_html, plain(item.content_text)],
      authors: (item.authors ?? feed.authors ?? []).map(({ name }) => name),
      categories: item.tags ?? [],
      dates: [item.date_published, item.date_modified],
      pictures: [
        item.image,
        item.banner_image,
        ...(item.attachments ?? [])
          .filter(({ mime_type, url }) => isImage(mime_type, url))
          .map(({ url }) => url),
      ],
    })),
  };
}

/** Reads a feed of any format. Throws what the parser throws where it is none. */
export function tell(text: string, maxItems: number): ToldFeed {
  const found = parseFeed<string>(text, { maxItems });
  switch (found.format) {
    case "rss":
      return rss(found.feed);
    case "rdf":
      return rdf(found.feed);
    case "atom":
      return atom(found.feed);
    case "json":
      return json(found.feed);
  }
}
