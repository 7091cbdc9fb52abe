import { z } from "zod";
import { blockShape, box, pad } from "../kinds/common.ts";
import type { BlockKind } from "../kinds/kind.ts";
import {
  attrs,
  css,
  hrefMarkup,
  html,
  isEmptyLink,
  line,
  lineMarkup,
  lineSchema,
  linkSchema,
  plain,
  slot,
  trusted,
  wordsOf,
} from "../text/index.ts";
import { colourSchema, FONTS, resolveColour } from "../theme/theme.ts";

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

export const button: BlockKind<Button> = {
  type: "button",
  label: "Button",
  group: "actions",
  icon: "mouse-pointer-click",
  schema,
  create: () => ({
    box: box(pad(12, 28)),
    show: "both",
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
    { control: "link", path: ["to"], label: "Leads to" },
  ],
  style: [
    { control: "colour", path: ["fill"], label: "Button" },
    { control: "colour", path: ["colour"], label: "Words" },
    { control: "number", path: ["corner"], label: "Corners", min: 0, max: 40, unit: "px" },
    {
      control: "choice",
      path: ["wide"],
      label: "Width",
      options: [
        { value: "words", label: "As its words" },
        { value: "full", label: "Full" },
      ],
    },
  ],
  /**
   * The cell carries the ground and the anchor the padding. The table-only engine ignores padding
   * on anchors, so it gets stretched filler characters instead (email-html, Techniques).
   */
  html(props, ctx) {
    const fill = resolveColour(props.fill, ctx.theme);
    const ink = resolveColour(props.colour, ctx.theme);
    const lineHeight = Math.round(props.size * 1.25);
    // A tap target of 44 px (WCAG 2.5.5).
    const padding = Math.max(BUTTON_PADDING.min, Math.ceil((44 - lineHeight) / 2));
    const radius = props.corner ? `${props.corner}px` : null;
    const anchor = css({
      display: props.wide === "full" ? "block" : "inline-block",
      padding: `${padding}px 20px`,
      "font-family": FONTS[ctx.theme.fonts.body].stack,
      "font-size": `${props.size}px`,
      "line-height": `${lineHeight}px`,
      "font-weight": 700,
      color: ink,
      "text-align": "center",
      "text-decoration": "none",
      "border-radius": radius,
      "background-color": fill,
    });
    const before = trusted(
      `<!--[if mso]><i style="mso-font-width:200%;mso-text-raise:${padding * 2}px">&#8195;</i><![endif]-->`,
    );
    const after = trusted(
      `<!--[if mso]><i style="mso-font-width:200%">&#8195;&#8203;</i><![endif]-->`,
    );
    const words = html`${before}<span${ctx.text("label")} class="r${padding}" style="${css({ color: ink })}">${lineMarkup(props.label, "html")}</span>${after}`;
    const href = hrefMarkup(props.to, ctx.node, wordsOf(props.label));
    const inner = href
      ? html`<a${href} style="${anchor}">${words}</a>`
      : html`<span style="${anchor}">${words}</span>`;
    const align = { start: null, center: "center", end: "right" }[props.box.align];
    const width = props.wide === "full" ? "100%" : null;
    return html`<table role="presentation"${attrs({ align, width })} border="0" cellpadding="0" cellspacing="0"><tr><td align="center" bgcolor="${fill}" style="${css({ "background-color": fill, "border-radius": radius })}">${inner}</td></tr></table>`;
  },
  text(props, ctx) {
    const label = lineMarkup(props.label, "text");
    if (isEmptyLink(props.to)) return plain`${label}`;
    const to = slot({
      slot: "link",
      node: ctx.node,
      to: props.to,
      words: wordsOf(props.label),
      as: "text",
    });
    return plain`${label}: ${to}`;
  },
  checks(props) {
    if (!isEmptyLink(props.to)) return [];
    return [
      {
        check: "empty-link",
        severity: "look",
        message: `The button “${wordsOf(props.label)}” leads nowhere`,
        detail: "Give it an address, or take it out.",
      },
    ];
  },
};
