/** What stands around the bands: head, style elements, preview text, the article. */
import { BUTTON_PADDING } from "../blocks/button.ts";
import type { DocNode } from "../document/index.ts";
import { type Dir, sideOf } from "../kinds/common.ts";
import { darkRules, dress } from "../kinds/dress.ts";
import { html, lineMarkup, type Markup, slot, trusted } from "../markup/index.ts";
import { isBlank, type Line } from "../text/index.ts";
import { FONTS, type Theme, type WebFont } from "../theme/theme.ts";
import type { EmailContext } from "./block.ts";

/** Keeps body text from following the preview text in the inbox: joiner, non-joiner, no-break space. */
const FILLER = "&#847;&zwnj;&nbsp;".repeat(60);

/**
 * The one small style element that matters (well under 8 KB, nothing exotic in it: a filter that
 * dislikes one rule throws all of them away). Inline styles win elsewhere, so these are important.
 */
export function narrowRules(width: number, dir: Dir = "ltr"): string {
  return [
    "body{margin:0;padding:0}",
    "a[x-apple-data-detectors]{color:inherit!important;text-decoration:none!important}",
    `@media (max-width:${width - 1}px){`,
    ".cl{max-width:100%!important}",
    ".sp{padding-left:16px!important;padding-right:16px!important}",
    ".im,.im img,.pw img{max-width:100%!important}",
    ".cl .pw{padding-left:0!important;padding-right:0!important;padding-bottom:12px!important}",
    ".st,.st tbody,.st tr,.st td,.st th{display:block!important;width:auto!important;box-sizing:border-box}",
    ".kb{display:block!important}",
    ".ov{height:240px!important}",
    ".st .sx{display:none!important}.sl{display:inline!important}",
    `.st td{text-align:${sideOf("start", dir)}!important}`,
    ".nw{display:none!important}",
    ".nr{display:table-row!important}",
    ".nt{display:table!important}",
    ".al{text-align:left!important}.al table{margin:0!important;float:none!important}",
    ".ac{text-align:center!important}.ac table{margin:0 auto!important;float:none!important}",
    ".ar{text-align:right!important}.ar table{margin:0 0 0 auto!important;float:none!important}",
    "}",
  ].join("\n");
}

/**
 * Rules that only the table-only engine knows, in a conditional comment, so that the HTML itself is plain:
 * exact line heights, what is hidden, and the rise of a button's words between its filler (r and the
 * padding in px).
 */
function tableOnlyRules(theme: Theme): string {
  const rises = Array.from({ length: BUTTON_PADDING.max - BUTTON_PADDING.min + 1 }, (_, i) => {
    const px = BUTTON_PADDING.min + i;
    return `.r${px}{mso-text-raise:${px}px}`;
  });
  return [
    ...webFontsOf(theme).map(
      ({ font, role }) =>
        `@font-face{font-family:'${font.family}';mso-font-alt:'${FONTS[theme.fonts[role]].stack.split(",")[0]!.replaceAll("'", "")}'}`,
    ),
    `table,td,div,p,a,h1,h2,h3{font-family:${FONTS[theme.fonts.body].stack};mso-line-height-rule:exactly}`,
    ".ph,.nr,.nt,.sl{mso-hide:all}",
    ...rises,
  ].join("");
}

function webFontsOf(theme: Theme): { font: WebFont; role: "heading" | "body" }[] {
  const roles = ["heading", "body"] as const;
  return roles.flatMap((role) => {
    const font = theme.webFonts[role];
    return font ? [{ font, role }] : [];
  });
}

/** Extras, in a style element of their own: a filter that dislikes an address throws away only this one. */
function fontRules(theme: Theme): string {
  const faces = new Map(
    webFontsOf(theme).map(({ font }) => {
      const format = font.address.endsWith("2") ? "woff2" : "woff";
      const face = `@font-face{font-family:'${font.family}';src:url('${font.address}') format('${format}')}`;
      return [font.family, face];
    }),
  );
  return faces.size ? `@media screen{\n${[...faces.values()].join("\n")}\n}` : "";
}

/** The whole HTML document around the bands. */
export function skeleton(
  root: DocNode,
  envelope: { subject: Line; preview: Line },
  context: EmailContext,
  bands: Markup,
): Markup {
  const { theme, lang, dir, width } = context;
  const body = dress(
    theme,
    { ground: "ground" },
    { margin: "0", padding: "0", width: "100%", "word-spacing": "normal" },
    { cell: true },
  );
  const scheme = theme.dark ? "light dark" : "light";
  const dark = darkRules(theme);
  const fonts = fontRules(theme);
  // A page has a title even while its subject is still to be written.
  const subject = isBlank(envelope.subject)
    ? html`${context.surroundings.brand.name}`
    : lineMarkup(envelope.subject, "attribute");
  const hidden =
    "display:none;font-size:1px;line-height:1px;max-height:0;max-width:0;opacity:0;overflow:hidden";
  return html`<!doctype html>
<html lang="${lang}" dir="${dir}" xmlns="http://www.w3.org/1999/xhtml" xmlns:v="urn:schemas-microsoft-com:vml" xmlns:o="urn:schemas-microsoft-com:office:office">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width,initial-scale=1">
<meta name="color-scheme" content="${scheme}">
<meta name="supported-color-schemes" content="${scheme}">
<meta name="format-detection" content="telephone=no,date=no,address=no,email=no,url=no">
<title>${subject}</title>
${trusted("<!--[if mso]><xml><o:OfficeDocumentSettings><o:AllowPNG/><o:PixelsPerInch>96</o:PixelsPerInch></o:OfficeDocumentSettings></xml><![endif]-->")}
<style>
${trusted(narrowRules(width, dir))}${dark && trusted(`\n${dark}`)}
</style>
${fonts && trusted(`<style>\n${fonts}\n</style>\n`)}${trusted(`<!--[if mso]><style>${tableOnlyRules(theme)}</style><![endif]-->`)}
</head>
<body${body}>
<div class="ph" style="${hidden}">${lineMarkup(envelope.preview, "attribute")}${trusted(FILLER)}</div>
<div${slot({ slot: "mark", node: root.id, text: null })} role="article" aria-roledescription="email" aria-label="${subject}" lang="${lang}" dir="${dir}">
${bands}</div>
${slot({ slot: "pixel" })}</body>
</html>
`;
}
