/** Finds the feeds that a page names. */
import { Parser } from "htmlparser2";
import { decodeText } from "./decode.ts";

const TYPES = new Set([
  "application/rss+xml",
  "application/atom+xml",
  "application/rdf+xml",
  "application/feed+json",
  "application/json",
]);

export interface FoundFeed {
  readonly address: string;
  /** What the page calls it, or empty. */
  readonly title: string;
}

/** The feeds of a page in the order in which it names them (`link rel=alternate`, WHATWG HTML 4.6.7.1). */
export function feedsOfPage(
  bytes: Uint8Array,
  { address, contentType }: { address: string; contentType?: string },
): FoundFeed[] {
  const found: FoundFeed[] = [];
  let base = address;
  const resolved = (href: string) => (URL.canParse(href, base) ? new URL(href, base) : null);
  const parser = new Parser({
    onopentag(name, { href = "", rel = "", type = "", title = "" }) {
      if (name === "base" && href) base = resolved(href)?.href ?? base;
      if (name !== "link" || !/\balternate\b/i.test(rel)) return;
      if (!TYPES.has(type.split(";")[0]!.trim().toLowerCase())) return;
      const url = resolved(href);
      if (url && /^https?:$/.test(url.protocol)) found.push({ address: url.href, title });
    },
  });
  parser.end(decodeText(bytes, contentType));
  return found.filter((one, i) => found.findIndex(({ address }) => address === one.address) === i);
}
