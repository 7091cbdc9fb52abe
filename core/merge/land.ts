/** How a value is made safe for the place it lands in. */
import { escapeHtml, oneLine } from "../markup/index.ts";
import type { Encoding, Landing } from "../text/index.ts";

/** Embeddings, overrides and isolates (UAX #9): in a header a value could turn round what stands beside it. */
const BIDI = /[\u202a-\u202e\u2066-\u2069]/g;

/** The address as the web writes it, or null where it is none of the web's. */
export function webAddress(value: string): string | null {
  if (!/^https?:\/\//i.test(value) || !URL.canParse(value)) return null;
  const { href, username, password } = new URL(value);
  return username || password ? null : href;
}

/** A part of an address: everything but the unreserved characters (RFC 3986, 2.3) is encoded. */
export const percent = (value: string): string =>
  // Lone surrogates have no UTF-8, and so no address.
  encodeURIComponent(value.toWellFormed()).replace(
    /[!'()*]/g,
    (c) => `%${c.charCodeAt(0).toString(16).toUpperCase()}`,
  );

/** Where a whole address leads that is none. */
const NOWHERE = "#";

const ENCODINGS: Record<Encoding, (value: string) => string> = {
  none: (value) => value,
  percent,
  address: (value) => webAddress(value) ?? NOWHERE,
};

/** What may stand in the value of one style property: nothing that ends it, quotes, or calls a function. */
const cssValue = (value: string): string => value.replace(/[^\p{L}\p{N} #%.,+-]/gu, "");

/** Makes a value safe for where it lands. */
export function land(value: string, { encoding, context }: Landing): string {
  const spelled = ENCODINGS[encoding](value);
  switch (context) {
    case "html":
    case "attribute":
      return escapeHtml(spelled);
    case "css":
      return cssValue(spelled);
    case "header":
      return oneLine(spelled.replace(BIDI, ""));
    case "text":
    case "redirect":
      return oneLine(spelled);
  }
}
