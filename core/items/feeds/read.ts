/** Reads a feed as it came from elsewhere: everything in it is hostile until it is here. */
import { LIMITS } from "../../limits.ts";
import { trimmed } from "../../words.ts";
import { decodeText } from "./decode.ts";
import { FeedError } from "./error.ts";
import type { FeedItem } from "./feed-item.ts";
import { type Told, type ToldFeed, tell } from "./formats.ts";
import { inOneLine, readHtml } from "./words.ts";

export interface ReadFeed {
  /** What it is called; empty where it does not say. */
  readonly title: string;
  /** The page it belongs to, or empty. */
  readonly home: string;
  readonly items: readonly FeedItem[];
  /** How many of its items have nothing by which anybody could tell them. */
  readonly leftOut: number;
}

/** Declarations of entities of one's own can be made to explode; no feed needs any (XML 1.0, 4.2). */
const OWN_ENTITIES = /<!(?:ENTITY\b|DOCTYPE\b[^>[]*\[)/i;
const MEMORY_DEPTH = 200;
const [SLASH, EXCLAMATION, QUESTION] = [47, 33, 63];

function first(list: readonly (string | undefined)[]): string {
  for (const one of list) {
    const text = one?.trim();
    if (text) return text;
  }
  return "";
}

/** An address that is spelled as it would be after reading it: most are. */
const PLAIN_ADDRESS = /^https?:\/\/[a-z0-9-]+(?:\.[a-z0-9-]*[a-z][a-z0-9-]*)+\/[\w/~-]*$/;

/** An address on the web as it leads from a base, or empty. Longer ones than anybody types are none. */
function webAddress(written: string, base: string): string {
  if (written.trim() === "") return "";
  if (PLAIN_ADDRESS.test(written) && written.length <= LIMITS.lineLength) return written;
  try {
    const { protocol, username, href } = new URL(written, base);
    const isWeb = /^https?:$/.test(protocol) && username === "" && href.length <= LIMITS.lineLength;
    return isWeb ? href : "";
  } catch {
    return "";
  }
}

/** The first address among some that leads somewhere. */
const leading = (written: readonly (string | undefined)[], base: string) =>
  first(written.map((one) => (one?.trim() ? webAddress(one.trim(), base) : "")));

/** A day or a moment as feeds write them (RFC 822, RFC 3339); null for none, for one that cannot be, and for what is yet to come. */
function momentOf(written: readonly (string | undefined)[], now: Date): Date | null {
  for (const text of written) {
    const at = new Date((text ?? "").trim());
    const year = at.getUTCFullYear();
    if (year >= 1970 && at.getTime() <= now.getTime() + 86_400_000) return at;
  }
  return null;
}

/** An item, or null where nothing tells it from others. */
function itemOf(told: Told, base: string, now: Date): FeedItem | null {
  const all = told.summaries.flatMap((one) => (one?.trim() ? [readHtml(one)] : []));
  const summary = trimmed(first(all.map(({ words }) => words)), LIMITS.itemSummary);
  const link = leading(told.links, base);
  const title = trimmed(
    first([...told.titles.map((one) => one && readHtml(one).words), summary, link]),
    LIMITS.itemTitle,
  );
  if (!title) return null;
  const published = momentOf(told.dates, now);
  return {
    key: trimmed(
      inOneLine(first([...told.ids, link])) || `${title} ${published?.toISOString() ?? ""}`,
      LIMITS.lineLength,
    ),
    title,
    link,
    summary: summary === title ? "" : summary,
    author: trimmed(readHtml(first(told.authors)).words, LIMITS.nameLength),
    categories: [
      ...new Set(
        told.categories.map((one) => trimmed(readHtml(one ?? "").words, LIMITS.nameLength)),
      ),
    ]
      .filter((one) => one !== "")
      .slice(0, LIMITS.itemCategories),
    published,
    picture: leading([...told.pictures, ...all.map(({ picture }) => picture)], base),
  };
}

function told(text: string): ToldFeed {
  if (OWN_ENTITIES.test(text)) {
    throw new FeedError("This feed declares entities of its own, which is not read.");
  }
  try {
    return tell(text, LIMITS.itemsPerSource);
  } catch (error) {
    const isPage = /^\s*(?:<!doctype html|<html)/i.test(text);
    if (isPage) throw new FeedError("This is a page and not a feed.", { cause: error });
    const begun = /^\s*(?:<\?xml|<rss|<feed|<rdf:RDF|\{)/i.test(text);
    throw new FeedError(
      begun
        ? "This begins like a feed, but cannot be read: it is cut off, or not well-formed."
        : "This is no feed: neither RSS, Atom nor JSON Feed.",
      { cause: error },
    );
  }
}

/** Whether elements nest deeper than any feed's: parsers would run out of room. */
function elementsTooDeep(text: string): boolean {
  let depth = 0;
  for (let at = text.indexOf("<"); at >= 0; at = text.indexOf("<", at + 1)) {
    const next = text.charCodeAt(at + 1);
    if (next === EXCLAMATION || next === QUESTION) continue;
    if (next === SLASH) depth--;
    else {
      const end = text.indexOf(">", at);
      if (end < 0) return false;
      if (text.charCodeAt(end - 1) !== SLASH && ++depth > MEMORY_DEPTH) return true;
      at = end;
    }
  }
  return false;
}

/** The same of the brackets of JSON. */
function bracketsTooDeep(text: string): boolean {
  let depth = 0;
  for (const [mark] of text.matchAll(/[[\]{}]/g)) {
    depth += mark === "{" || mark === "[" ? 1 : -1;
    if (depth > MEMORY_DEPTH) return true;
  }
  return false;
}

const isTooDeep = (text: string) =>
  text.startsWith("<") ? elementsTooDeep(text) : bracketsTooDeep(text);

/**
 * Reads the bytes of a feed that came from an address, at a moment (nothing is from later). Items that say the same
 * link or the same id twice are one. Throws a FeedError that says in a sentence what is wrong.
 */
export function readFeed(
  bytes: Uint8Array,
  { address, contentType, now }: { address: string; contentType?: string; now: Date },
): ReadFeed {
  const text = decodeText(bytes, contentType).trim();
  if (text === "") throw new FeedError("There is nothing at this address.");
  if (isTooDeep(text)) throw new FeedError("This feed nests its parts too deep to be read.");
  const feed = told(text);
  const base =
    webAddress(feed.base ?? "", address) || webAddress(feed.home ?? "", address) || address;
  const items: FeedItem[] = [];
  const keys = new Set<string>();
  const links = new Set<string>();
  let leftOut = 0;
  for (const one of feed.items) {
    const item = itemOf(one, base, now);
    if (!item) leftOut++;
    else if (!keys.has(item.key) && !(item.link && links.has(item.link))) {
      keys.add(item.key);
      links.add(item.link);
      items.push(item);
    }
  }
  return {
    title: trimmed(readHtml(feed.title ?? "").words, LIMITS.nameLength),
    home: webAddress(feed.home ?? "", base),
    items,
    leftOut,
  };
}
