/** How a value is made safe for the place it lands in. */
import { escapeHtml, type Landing, oneLine } from "../text/index.ts";

/** Embeddings, overrides and isolates (UAX #9): in a header a value could turn round what stands beside it. */
const BIDI = /[\u202a-\u202e\u2066-\u2069]/g;

/** The address as the web writes it, or null where it is none of the web's. */
export function webAddress(value: string): string | null {
  if (!/^https?:\/\//i.test(value) || !URL.canParse(value)) return null;
  const { href, username, password } = new URL(value);
  return username || password ? null : href;
}

/** Makes a value safe for where it lands. */
export function land(value: string, as: Landing): string {
  switch (as) {
    case "html":
    case "attribute":
      return escapeHtml(value);
    case "url":
      // Lone surrogates have no UTF-8, and so no address.
      return escapeHtml(encodeURIComponent(value.toWellFormed()));
    case "header":
      return oneLine(value.replace(BIDI, ""));
    case "text":
      return oneLine(value);
  }
}

/** A whole address that a value gives, for HTML or for plain text; whatever is none leads nowhere. */
export function landAddress(value: string, as: "html" | "text"): string {
  const address = webAddress(value) ?? "#";
  return as === "html" ? escapeHtml(address) : address;
}
