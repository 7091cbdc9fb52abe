/** What stands around the bands: head, style elements, preview text, the article. */
import { BUTTON_RULES } from "../blocks/button-look.ts";
import type { DocNode } from "../document/index.ts";
import { type Dir, sideOf } from "../kinds/common.ts";
import { darkRules, dress, markedDarkRules } from "../kinds/dress.ts";
import { SIZE_RULES } from "../kinds/narrow.ts";
import {
  everyShape,
  html,
  lineMarkup,
  Markup,
  onSheetOnly,
  sentOf,
  slot,
  trusted,
} from "../markup/index.ts";
import { isBlank, type Line } from "../text/index.ts";
import { fontFace } from "../theme/faces.ts";
import { FONTS, fontStack, type Theme, type WebFont } from "../theme/theme.ts";
import type { EmailContext } from "./block.ts";

/** Keeps body text from following the preview text in the inbox: joiner, non-joiner, no-break space. */
const FILLER = "\u034f\u200c\u00a0".repeat(55);

/**
 * The one small style element that matters (well under 8 KB, nothing exotic in it: a filter that
 * dislikes one rule throws all of them away). Inline styles win elsewhere, so these are important.
 */
const narrowRules = (dir: Dir): string[] => [
  ".cl{max-width:100%!important}",
  ".sp{padding-left:16px!important;padding-right:16px!important}",
  ".im,.im img{max-width:100%!important}",
  ".pw img{max-width:100%!important}",
  ".cl .pw{padding-left:0!important;padding-right:0!important;padding-bottom:12px!important}",
  ".st,.st caption,.st tbody,.st tr,.st td,.st th{display:block!important;width:auto!important;box-sizing:border-box}",
  ".kb{display:block!important}",
  ".ov{height:240px!important}",
  ".st .sx{display:none!important}",
  ".sl{display:inline!important}",
  `.st td{text-align:${sideOf("start", dir)}!important}`,
  ".nw{display:none!important}",
  ".nr{display:table-row!important}",
  ".nt{display:table!important}",
  ".nb{display:block!important}",
  ".bi{padding-bottom:12px!important}",
  ".bf{display:block!important;padding:0 0 12px!important}",
  ".bw{width:100%!important;float:none!important}.bw a,.bw span{display:block!important}",
  ".al{text-align:left!important}.al table{margin:0!important;float:none!important}",
  ".ac{text-align:center!important}.ac table{margin:0 auto!important;float:none!important}",
  ".ar{text-align:right!important}.ar table{margin:0 0 0 auto!important;float:none!important}",
];

const CLASS = ' class="';

/** The classes that elements of some markup have, but for what is on sheets alone. */
function classesIn(...parts: readonly Markup[]): ReadonlySet<string> {
  const found = new Set<string>();
  const look = ({ segments }: Markup) => {
    for (const segment of sentOf(segments)) {
      if (typeof segment !== "string") {
        // Whatever a reader has of their own stands there with the classes it needs.
        if (segment.slot === "chosen") for (const one of everyShape(segment)) look(one);
        continue;
      }
      for (let at = segment.indexOf(CLASS); at >= 0; ) {
        const end = segment.indexOf('"', at + CLASS.length);
        found.add(segment.slice(at + CLASS.length, end));
        at = segment.indexOf(CLASS, end);
      }
    }
  };
  for (const part of parts) look(part);
  return new Set([...found].flatMap((names) => names.split(" ")));
}

/** Rules as they are written, those for what is there and the others, which stand on sheets alone: any block may come in. */
interface Rules {
  readonly used: Markup;
  readonly others: Markup;
}

const names = new Map<string, string>();
/** The class that a rule is for. */
function classOf(rule: string): string {
  let name = names.get(rule);
  if (name === undefined) {
    name = /\.([a-z0-9]+)/.exec(rule)![1]!;
    names.set(rule, name);
  }
  return name;
}

const sizes = new Map(SIZE_RULES.map((rule) => [/\.([a-z0-9]+)/.exec(rule)![1]!, rule]));
const ALL_SIZES = trusted(SIZE_RULES.map((rule) => `${rule}\n`).join(""));

/** The same for sizes on narrow: there are hundreds, of which an email has a few or none. */
function sizesFor(classes: ReadonlySet<string>): Rules {
  const used = [...classes].flatMap((name) => sizes.get(name) ?? []);
  if (used.length === 0) return { used: Markup.empty, others: ALL_SIZES };
  return rulesFor(SIZE_RULES, classes);
}

function rulesFor(rules: readonly string[], classes: ReadonlySet<string>): Rules {
  const written = [false, true].map((there) =>
    trusted(
      rules
        .filter((rule) => classes.has(classOf(rule)) === there)
        .map((rule) => `${rule}\n`)
        .join(""),
    ),
  );
  return { others: written[0]!, used: written[1]! };
}

/** Rules, in a media query where they are for one. */
function written({ used, others }: Rules, query?: string): Markup {
  const open = query ? trusted(`@media (${query}){\n`) : null;
  const close = query ? trusted("}\n") : null;
  const apart = others.segments.length > 0;
  if (!used.segments.length)
    return apart ? onSheetOnly(html`${open}${others}${close}`) : Markup.empty;
  return html`${open}${used}${apart && onSheetOnly(others)}${close}`;
}

/**
 * Rules that only the table-only engine knows, in a conditional comment, so that the HTML itself is plain:
 * exact line heights, what is hidden, and what buttons need of them that are there.
 */
function tableOnlyRules(theme: Theme, used: ReadonlySet<string>): string {
  return [
    ...webFontsOf(theme).map(
      ({ font, role }) =>
        `@font-face{font-family:'${font.family}';mso-font-alt:'${FONTS[theme.fonts[role]].stack.split(",")[0]!.replaceAll("'", "")}'}`,
    ),
    // The font on cells alone: elements in them inherit theirs, a monospace code or a heading's.
    `table,td{font-family:${FONTS[theme.fonts.body].stack}}`,
    "table,td,div,p,a,h1,h2,h3{mso-line-height-rule:exactly}",
    // HTML of one's own may hold pictures, which an exact line would cut.
    ".pc,.pc p,.pc td,.pc div,.pc a{mso-line-height-rule:at-least}",
    ".nr,.nt,.nb,.sl,.dd{mso-hide:all}",
    "img{border:0}",
    ...BUTTON_RULES.filter((rule) => used.has(classOf(rule))),
  ].join("\n");
}

/**
 * Rules by attribute, in a style element of their own: a strict filter throws away the whole element in which it
 * meets one.
 */
const attributeRules = (theme: Theme, used: ReadonlySet<string>): Markup =>
  html`${trusted("a[x-apple-data-detectors]{color:inherit!important;text-decoration:none!important}\n")}${written(rulesFor(markedDarkRules(theme), used))}`;

function webFontsOf(theme: Theme): { font: WebFont; role: "heading" | "body" }[] {
  const roles = ["heading", "body"] as const;
  return roles.flatMap((role) => {
    const font = theme.webFonts[role];
    return font ? [{ font, role }] : [];
  });
}

/** Extras, in a style element of their own: a filter that dislikes an address throws away only this one. */
function fontRules(theme: Theme, base: string): string {
  const faces = new Map(webFontsOf(theme).map(({ font }) => [font.family, fontFace(font, base)]));
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
  // Engines take it over into nested tables; some programs keep one of the two elements alone.
  const font = { "font-family": fontStack("body", theme) };
  const body = dress(
    theme,
    { ground: "ground" },
    { margin: "0", padding: "0", width: "100%", "word-spacing": "normal", ...font },
    { cell: true },
  );
  const scheme = theme.dark ? "light dark" : "light";
  const article = dress(theme, { ground: "ground" }, font);
  const used = classesIn(body, article, bands);
  const sizes = sizesFor(used);
  const shapes = rulesFor(narrowRules(dir), used);
  const narrow = { used: html`${shapes.used}${sizes.used}`, others: shapes.others };
  // There is one for each size that a hand can choose: those that are not there stand apart.
  const otherSizes = written(
    { used: Markup.empty, others: sizes.others },
    `max-width:${width - 1}px`,
  );
  const fonts = fontRules(theme, context.surroundings.publicAddress);
  // A page has a title even while its subject is still to be written.
  const subject = isBlank(envelope.subject)
    ? html`${context.surroundings.brand.name}`
    : lineMarkup(envelope.subject, "attribute");
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
${written(narrow, `max-width:${width - 1}px`)}${written(rulesFor(darkRules(theme), used), "prefers-color-scheme:dark")}</style>
<style>
${attributeRules(theme, used)}</style>
${onSheetOnly(html`<style>\n${otherSizes}</style>\n`)}${fonts && trusted(`<style>\n${fonts}\n</style>\n`)}${trusted(`<!--[if mso]><style>\n${tableOnlyRules(theme, used)}\n</style><![endif]-->`)}
</head>
<body${body}>
<div class="ph" style="display:none;max-height:0;overflow:hidden;mso-hide:all">${lineMarkup(envelope.preview, "attribute")}${trusted(FILLER)}</div>
<div${slot({ slot: "mark", node: root.id, text: null })} role="article" aria-roledescription="email" aria-label="${subject}" lang="${lang}" dir="${dir}"${article}>
${bands}</div>
${slot({ slot: "pixel" })}</body>
</html>
`;
}
