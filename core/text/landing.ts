/** Where values land: how they are spelled there, and what they must not break out of. */

/**
 * How a value is spelled: as it is; as a part of an address (RFC 3986, 2.1); or as a whole address, which is
 * left out where it is none.
 */
export type Encoding = "none" | "percent" | "address";
/** What it stands in, and so which characters must not get through. */
export type Context = "html" | "attribute" | "css" | "text" | "header" | "redirect";

/** Where a value lands: two things, each decided on its own. */
export interface Landing {
  readonly encoding: Encoding;
  readonly context: Context;
}
const landing = (encoding: Encoding, context: Context): Landing => ({ encoding, context });

/** The landings there are, by name. */
export const LANDINGS = {
  /** Words. */
  html: landing("none", "html"),
  attribute: landing("none", "attribute"),
  css: landing("none", "css"),
  text: landing("none", "text"),
  header: landing("none", "header"),
  /** A part of an address: in a link or the source of a picture, in plain text, in a redirect. */
  partHtml: landing("percent", "attribute"),
  partText: landing("percent", "text"),
  partRedirect: landing("percent", "redirect"),
  /** A whole address. */
  addressHtml: landing("address", "attribute"),
  addressText: landing("address", "text"),
  addressRedirect: landing("address", "redirect"),
} as const;

/** Words in one of these, by name. */
export type WordsIn = "html" | "attribute" | "text" | "header";

/** What an address stands in. */
export type AddressContext = "html" | "text" | "redirect";
const PARTS = { html: LANDINGS.partHtml, text: LANDINGS.partText, redirect: LANDINGS.partRedirect };
const WHOLES = {
  html: LANDINGS.addressHtml,
  text: LANDINGS.addressText,
  redirect: LANDINGS.addressRedirect,
};
/** How a value lands that is a part of an address, or all of it. */
export const inAddress = (context: AddressContext, whole = false): Landing =>
  (whole ? WHOLES : PARTS)[context];
