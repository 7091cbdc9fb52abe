/** Styles that somebody wrote or pasted, made fit for an email. */

/** Nothing that fetches, runs, or leaves its place. */
const PROPERTIES = new Set(
  (
    "color background-color font-family font-size font-weight font-style line-height letter-spacing " +
    "text-align text-decoration text-transform text-indent vertical-align white-space word-break direction " +
    "overflow-wrap width max-width min-width height max-height min-height display list-style-type " +
    "margin margin-top margin-right margin-bottom margin-left padding padding-top padding-right " +
    "padding-bottom padding-left border border-top border-right border-bottom border-left border-color " +
    "border-style border-width border-radius border-collapse border-spacing table-layout"
  ).split(" "),
);
const SAFE_VALUE =
  /^(?!.*(?:url\s*\(|expression\s*\(|javascript:|-moz-binding|\/\*|\\))[^<>{}@]+$/is;
/** A quote that is not closed would take in what comes after. */
const CLOSED = /^(?:[^"']|"[^"]*"|'[^']*')*$/;

/** Of a style attribute (CSS Style Attributes) the declarations that the lists let through. */
export const cleanStyle = (style: string): string =>
  style
    .replace(/\/\*[^*]*\*\//g, "")
    .split(";")
    .flatMap((declaration) => {
      const colon = declaration.indexOf(":");
      const property = declaration.slice(0, Math.max(0, colon)).trim().toLowerCase();
      const value = declaration.slice(colon + 1).trim();
      const stays = PROPERTIES.has(property) && SAFE_VALUE.test(value) && CLOSED.test(value);
      return stays ? [`${property}:${value}`] : [];
    })
    .join(";");
