/** Web fonts as the rules that load them (CSS Fonts 4, 4). */
import type { Theme, WebFont } from "./theme.ts";

/** The rule for one font; `base` is where the house's own are, before their path. */
export function fontFace({ family, address }: WebFont, base: string): string {
  const format = address.endsWith("2") ? "woff2" : "woff";
  return `@font-face{font-family:'${family}';src:url('${address.startsWith("/") ? base : ""}${address}') format('${format}')}`;
}

/** The rules for a page of the house: its own fonts alone, since a page tells nobody else who reads it. */
export function pageFaces({ webFonts: { heading, body } }: Theme): string {
  const own = [heading, body].filter((font) => font?.address.startsWith("/") ?? false);
  return [...new Set(own.map((font) => fontFace(font!, "")))].join("\n");
}
