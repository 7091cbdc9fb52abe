/** What a button looks like, and where it leads: for the button block and for the buttons in other blocks. */
import { z } from "zod";
import { type Align, sideOf } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockContext, Finding } from "../kinds/kind.ts";
import { attrs, css, hrefMarkup, html, lineMarkup, type Markup, trusted } from "../markup/index.ts";
import { isEmptyLink, type Line, type Link, wordsOf } from "../text/index.ts";
import { type Colour, fontStack, resolveColour } from "../theme/theme.ts";
import { LAYOUT_TABLE, oneCell } from "./columns.ts";

/** On a ground of its own, with a border alone, or as words with the room of a button. */
export const buttonLookSchema = z.enum(["filled", "outline", "quiet"]);
export const BUTTON_LOOKS = [
  { value: "filled", label: "Filled" },
  { value: "outline", label: "Outlined" },
  { value: "quiet", label: "Text alone" },
] as const;

/** Padding above and below a label, px: what is left to 44 px for the smallest and the largest words. */
export const BUTTON_PADDING = { min: 10, max: 15 } as const;
/** Sizes of its words, px. */
export const BUTTON_SIZE = { min: 12, max: 28 } as const;
/** Beside it, and the border of an outlined one, px. */
const SIDES = 20;
const EDGE = 2;

export interface ButtonLook {
  readonly label: Line;
  readonly to: Link;
  readonly look: z.infer<typeof buttonLookSchema>;
  /** Its ground; where it has none, its border and its words. */
  readonly fill: Colour;
  /** Its words on the ground. */
  readonly colour: Colour;
  readonly corner: number;
  readonly size: number;
  readonly full: boolean;
  /** As wide as its place where the window is narrow. */
  readonly fullOnNarrow: boolean;
  readonly align: Align;
  /** The text that its label is. */
  readonly text: string;
  /** What a full one fills, px. */
  readonly width: number;
}

/** As a button that is not filled has no ground, the role of buttons is that of outlined ones there. */
const fillOf = ({ look, fill }: ButtonLook): Colour =>
  look !== "filled" && fill === "button" ? "outline" : fill;

/** What the proof says about a button that leads nowhere; `path` is that of its link. */
export const buttonFindings = (label: Line, to: Link, path: string): Omit<Finding, "at">[] =>
  isEmptyLink(to)
    ? [
        {
          check: "empty-link",
          severity: "look",
          message: `The button “${wordsOf(label)}” leads nowhere`,
          in: [path],
          detail: "Give it an address, or take it out.",
        },
      ]
    : [];

/** Numbers from one to another. */
const from = ({ min, max }: { min: number; max: number }): number[] =>
  Array.from({ length: max - min + 1 }, (_, i) => min + i);

/** Padding above and below words of a size, px, for a tap target of 44 px (WCAG 2.5.5). */
const paddingOf = (size: number): number =>
  Math.max(BUTTON_PADDING.min, Math.ceil((44 - Math.round(size * 1.25)) / 2));

/**
 * Rules that buttons need in the table-only engine, by the size of their words: how wide their filler is (an em space is
 * as wide as the words are high: stretched, it is as wide as the padding), how far the first is raised, and how far
 * words are, by their padding.
 */
export const BUTTON_RULES: readonly string[] = [
  ...from(BUTTON_SIZE).flatMap((px) => {
    const width = `mso-font-width:${Math.round((SIDES / px) * 100)}%`;
    return [`.f${px}{${width}}`, `.u${px}{${width};mso-text-raise:${paddingOf(px) * 2}px}`];
  }),
  ...from(BUTTON_PADDING).map((px) => `.r${px}{mso-text-raise:${px}px}`),
];

/**
 * A button. The cell carries the ground and the anchor the padding; the table-only engine ignores padding
 * on anchors, so it gets stretched filler characters instead (email-html, Techniques).
 */
export function buttonHtml(look: ButtonLook, ctx: BlockContext): Markup {
  const { theme } = ctx;
  const filled = look.look === "filled";
  const edge = look.look === "outline" ? EDGE : 0;
  const fill = fillOf(look);
  const ink = filled ? look.colour : fill;
  const ground = filled ? fill : null;
  const lineHeight = Math.round(look.size * 1.25);
  const padding = paddingOf(look.size);
  const radius = look.corner ? `${look.corner}px` : null;
  const line = edge ? `${edge}px solid ${resolveColour(fill, theme)}` : null;
  // A shape for the table-only engine needs to know its size: those as wide as their place can have one.
  const shaped = look.full && radius !== null && !isEmptyLink(look.to) && look.look !== "quiet";
  const anchor = dress(
    theme,
    {
      // The span in it has its colour; here it is that of the line under the words.
      ink: look.look === "quiet" ? ink : null,
      // Its ground is the cell's, where that is as large as it is.
      ground: shaped ? ground : null,
      rule: edge ? fill : null,
    },
    {
      border: line,
      display: look.full ? "block" : "inline-block",
      padding: `${padding - edge}px ${SIDES - edge}px`,
      "font-size": `${look.size}px`,
      "line-height": `${lineHeight}px`,
      "font-weight": 700,
      "text-decoration": look.look === "quiet" ? "underline" : "none",
      "border-radius": shaped || edge ? radius : null,
    },
  );
  const before = trusted(`<!--[if mso]><i class="u${look.size}">\u2003</i><![endif]-->`);
  const after = trusted(`<!--[if mso]><i class="f${look.size}">\u2003\u200b</i><![endif]-->`);
  const inner = dress(theme, { ink }, {}, { classes: [`r${padding}`] });
  const words = html`<span${ctx.text(look.text)}${inner}>${lineMarkup(look.label, "html")}</span>`;
  const href = hrefMarkup(look.to, ctx.node, wordsOf(look.label));
  const around = (body: Markup) =>
    href ? html`<a${href}${anchor}>${body}</a>` : html`<span${anchor}>${body}</span>`;
  const align = look.align === "start" ? null : sideOf(look.align, ctx.dir);
  const cell = dress(theme, { ground }, { "border-radius": radius }, { cell: true });
  if (shaped && href) {
    const rounded = roundedForTables(look, ctx, { href, height: lineHeight + 2 * padding });
    // Conditional comments do not nest: where the table-only engine sees nothing, it needs no filler.
    return oneCell(
      html` align="center"`,
      html`${rounded}${NOT_TABLES.open}${around(words)}${NOT_TABLES.close}`,
    );
  }
  const own = attrs({
    align,
    width: look.full ? "100%" : null,
    class: look.fullOnNarrow && !look.full ? "bw" : null,
  });
  return html`${LAYOUT_TABLE}${own}><tr><td align="center"${cell}>${edged(around(html`${before}${words}${after}`), line, look.full)}</td></tr></table>`;
}

/** The table-only engine draws no borders around anchors: a cell around them has it there. */
function edged(button: Markup, line: string | null, full: boolean): Markup {
  if (!line) return button;
  const table = LAYOUT_TABLE.segments.join("") + (full ? ' width="100%"' : "");
  const open = trusted(
    `<!--[if mso]>${table}><tr><td align="center" style="border:${line}"><![endif]-->`,
  );
  return html`${open}${button}${trusted("<!--[if mso]></td></tr></table><![endif]-->")}`;
}

/** What the table-only engine does not see. */
const NOT_TABLES = {
  open: trusted("<!--[if !mso]><!-->"),
  close: trusted("<!--<![endif]-->"),
} as const;

/**
 * Corners for the table-only engine, which draws none on cells: a shape of its own. It needs its size
 * beforehand, so that only buttons as wide as their place can have it; words that are wider than a shape
 * would be cut off.
 */
function roundedForTables(
  look: ButtonLook,
  ctx: BlockContext,
  { href, height }: { href: Markup; height: number },
): Markup {
  const filled = look.look === "filled";
  const fill = resolveColour(fillOf(look), ctx.theme);
  const paint = filled
    ? attrs({ stroked: "f", fillcolor: fill })
    : attrs({ filled: "f", strokecolor: fill, strokeweight: `${EDGE}px` });
  const arc = Math.min(50, Math.round((look.corner / Math.min(height, look.width)) * 100));
  const words = css({
    color: filled ? resolveColour(look.colour, ctx.theme) : fill,
    "font-family": fontStack("body", ctx.theme),
    "font-size": `${look.size}px`,
    "font-weight": 700,
  });
  return html`${trusted('<!--[if mso]><v:roundrect xmlns:w="urn:schemas-microsoft-com:office:word"')}${href} style="width:${look.width}px;height:${height}px;v-text-anchor:middle" arcsize="${arc}%"${paint}>${trusted("<w:anchorlock/>")}<center style="${words}">${lineMarkup(look.label, "html")}</center></v:roundrect>${trusted("<![endif]-->")}`;
}
