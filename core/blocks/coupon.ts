import { z } from "zod";
import { blockShape, box, pad } from "../kinds/common.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { css, html, isBlank, join, line, lineMarkup, lineSchema, plain } from "../text/index.ts";
import { colourSchema, FONTS, resolveColour } from "../theme/theme.ts";
import { wordStyle } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  title: lineSchema,
  /** The same code for every reader. */
  code: lineSchema,
  terms: lineSchema,
  parts: z.strictObject({ title: z.boolean(), terms: z.boolean() }),
  colour: colourSchema,
  ground: colourSchema,
});
type Coupon = z.infer<typeof schema>;

export const coupon: BlockKind<Coupon> = {
  type: "coupon",
  label: "Coupon",
  group: "actions",
  icon: "ticket",
  schema,
  create: () => ({
    box: box(pad(16, 28), "center"),
    show: "both",
    title: line("Ten per cent off in the shop"),
    code: line("GARDEN10"),
    terms: line("Once per person, until the end of the month."),
    parts: { title: true, terms: true },
    colour: "accent",
    ground: "tint",
  }),
  texts: [
    { path: ["title"], kind: "line", label: "Title" },
    { path: ["code"], kind: "line", label: "Code" },
    { path: ["terms"], kind: "line", label: "Terms" },
  ],
  content: [
    { control: "line", path: ["title"], label: "Title" },
    { control: "line", path: ["code"], label: "Code" },
    { control: "line", path: ["terms"], label: "Terms" },
    { control: "switch", path: ["parts", "title"], label: "With the title" },
    { control: "switch", path: ["parts", "terms"], label: "With the terms" },
  ],
  style: [
    { control: "colour", path: ["colour"], label: "Code and border" },
    { control: "colour", path: ["ground"], label: "Ground" },
  ],
  html(props, ctx) {
    const { theme } = ctx;
    const ink = resolveColour(props.colour, theme);
    const ground = resolveColour(props.ground, theme);
    const title = props.parts.title
      ? html`<div${ctx.text("title")} style="${wordStyle(theme, { font: theme.fonts.body, size: theme.type.body, lineHeight: 1.4, colour: "ink", weight: 700 })}">${lineMarkup(props.title, "html")}</div>`
      : null;
    const code = html`<div${ctx.text("code")} style="${css({ "font-family": FONTS.mono.stack, "font-size": "26px", "line-height": "36px", "font-weight": 700, "letter-spacing": "2px", color: ink, padding: "6px 0" })}">${lineMarkup(props.code, "html")}</div>`;
    const terms = props.parts.terms
      ? html`<div${ctx.text("terms")} style="${wordStyle(theme, { font: theme.fonts.body, size: 14, lineHeight: 1.4, colour: "quiet" })}">${lineMarkup(props.terms, "html")}</div>`
      : null;
    return html`<table role="presentation" width="100%" border="0" cellpadding="0" cellspacing="0" style="width:100%"><tr><td align="center" bgcolor="${ground}" style="${css({ border: `2px dashed ${ink}`, "background-color": ground, padding: "18px 20px", "text-align": "center", "border-radius": `${theme.corner}px` })}">${title}${code}${terms}</td></tr></table>`;
  },
  text(props) {
    const lines = [
      props.parts.title ? lineMarkup(props.title, "text") : null,
      plain`Code: ${lineMarkup(props.code, "text")}`,
      props.parts.terms ? lineMarkup(props.terms, "text") : null,
    ];
    return join(
      lines.filter((one) => one !== null),
      "\n",
    );
  },
  checks(props) {
    if (!isBlank(props.code)) return [];
    return [
      {
        check: "empty-coupon",
        severity: "look",
        message: "A coupon has no code",
        detail: "Write the code that readers use.",
      },
    ];
  },
};
