import { z } from "zod";
import { type Align, blockShape, pad, sideOf, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockContext, BlockKind } from "../kinds/kind.ts";
import {
  addressText,
  attrs,
  css,
  hrefMarkup,
  html,
  lineMarkup,
  type Markup,
  plain,
  trusted,
} from "../markup/index.ts";
import {
  isEmptyLink,
  type Line,
  type Link,
  line,
  lineSchema,
  linkSchema,
  wordsOf,
} from "../text/index.ts";
import { type Colour, colourSchema, fontStack, resolveColour } from "../theme/theme.ts";
import { LAYOUT_TABLE, oneCell } from "./columns.ts";

const schema = z.strictObject({
  ...blockShape,
  label: lineSchema,
  to: linkSchema,
  fill: colourSchema,
  colour: colourSchema,
  corner: z.number().int().min(0).max(40),
  size: z.number().int().min(12).max(28),
  wide: z.enum(["words", "full"]),
});
type Button = z.infer<typeof schema>;

/** Padding above and below a label, px: what is left to 44 px for the smallest and the largest words. */
export const BUTTON_PADDING = { min: 10, max: 15 } as const;

interface ButtonLook {
  readonly label: Line;
  readonly to: Link;
  readonly fill: Colour;
  readonly colour: Colour;
  readonly corner: number;
  readonly size: number;
  readonly full: boolean;
  readonly align: Align;
}

/**
 * A button. The cell carries the ground and the anchor the padding; the table-only engine ignores padding
 * on anchors, so it gets stretched filler characters instead (email-html, Techniques).
 */
function buttonHtml(look: ButtonLook, ctx: BlockContext): Markup {
  const { theme } = ctx;
  const lineHeight = Math.round(look.size * 1.25);
  // A tap target of 44 px (WCAG 2.5.5).
  const padding = Math.max(BUTTON_PADDING.min, Math.ceil((44 - lineHeight) / 2));
  const radius = look.corner ? `${look.corner}px` : null;
  const anchor = dress(
    theme,
    { ink: look.colour, ground: look.fill },
    {
      display: look.full ? "block" : "inline-block",
      padding: `${padding}px 20px`,
      "font-size": `${look.size}px`,
      "line-height": `${lineHeight}px`,
      "font-weight": 700,
      "text-align": "center",
      "text-decoration": "none",
      "border-radius": radius,
    },
  );
  const before = trusted(
    `<!--[if mso]><i style="mso-font-width:200%;mso-text-raise:${padding * 2}px">&#8195;</i><![endif]-->`,
  );
  const after = trusted(
    `<!--[if mso]><i style="mso-font-width:200%">&#8195;&#8203;</i><![endif]-->`,
  );
  const inner = dress(theme, { ink: look.colour }, {}, { classes: [`r${padding}`] });
  const words = html`${before}<span${ctx.text("label")}${inner}>${lineMarkup(look.label, "html")}</span>${after}`;
  const href = hrefMarkup(look.to, ctx.node, wordsOf(look.label));
  const body = href ? html`<a${href}${anchor}>${words}</a>` : html`<span${anchor}>${words}</span>`;
  const align = look.align === "start" ? null : sideOf(look.align, ctx.dir);
  if (look.full && radius && href) {
    const rounded = roundedForTables(look, ctx, { href, height: lineHeight + 2 * padding });
    return oneCell(
      html` align="center"`,
      html`${rounded}${NOT_TABLES.open}${body}${NOT_TABLES.close}`,
    );
  }
  const cell = dress(theme, { ground: look.fill }, { "border-radius": radius }, { cell: true });
  return html`${LAYOUT_TABLE}${attrs({ align, width: look.full ? "100%" : null })}><tr><td align="center"${cell}>${body}</td></tr></table>`;
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
  const arc = Math.min(50, Math.round((look.corner / Math.min(height, ctx.width)) * 100));
  const words = css({
    color: resolveColour(look.colour, ctx.theme),
    "font-family": fontStack("body", ctx.theme),
    "font-size": `${look.size}px`,
    "font-weight": 700,
  });
  return html`${trusted("<!--[if mso]><v:roundrect")}${href} style="width:${ctx.width}px;height:${height}px;v-text-anchor:middle" arcsize="${arc}%" stroked="f" fillcolor="${resolveColour(look.fill, ctx.theme)}"><center style="${words}">${lineMarkup(look.label, "html")}</center></v:roundrect>${trusted("<![endif]-->")}`;
}

export const button: BlockKind<Button> = {
  type: "button",
  label: "Button",
  group: "actions",
  icon: "mouse-pointer-click",
  schema,
  create: () => ({
    ...standing(pad(12, 28)),
    label: line("Read more"),
    to: { kind: "web", address: line() },
    fill: "accent",
    colour: "onAccent",
    corner: 4,
    size: 16,
    wide: "words",
  }),
  texts: [{ path: ["label"], kind: "line", label: "Label" }],
  content: [
    { control: "line", path: ["label"], label: "Label" },
    { control: "link", path: ["to"], label: "Link to" },
  ],
  style: [
    { control: "colour", path: ["fill"], label: "Button" },
    { control: "colour", path: ["colour"], label: "Text" },
    { control: "number", path: ["size"], label: "Size", min: 12, max: 28, unit: "px" },
    { control: "number", path: ["corner"], label: "Corners", min: 0, max: 40, unit: "px" },
    {
      control: "choice",
      path: ["wide"],
      label: "Width",
      options: [
        { value: "words", label: "As wide as its text" },
        { value: "full", label: "Full" },
      ],
    },
  ],
  html: (props, ctx) =>
    buttonHtml({ ...props, full: props.wide === "full", align: props.box.align }, ctx),
  text: (props, ctx) =>
    plain`${lineMarkup(props.label, "text")}${addressText(props.to, ctx.node, wordsOf(props.label), ": ")}`,
  checks(props) {
    if (!isEmptyLink(props.to)) return [];
    return [
      {
        check: "empty-link",
        severity: "look",
        message: `The button “${wordsOf(props.label)}” leads nowhere`,
        in: ["to"],
        detail: "Give it an address, or take it out.",
      },
    ];
  },
};
