import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { html, join, lineMarkup, plain } from "../markup/index.ts";
import { isBlank, line, lineSchema } from "../text/index.ts";
import { colourSchema, FONTS, resolveColour } from "../theme/theme.ts";
import { oneCell } from "./columns.ts";
import { wordAttrs } from "./type-style.ts";

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
    ...standing(pad(16, 28), "center"),
    title: line("Ten per cent off in the shop"),
    code: line("GARDEN10"),
    terms: line("Once per person, until the end of the month."),
    parts: { title: true, terms: true },
    colour: "accent",
    ground: "tint",
  }),
  examples: [["title"], ["code"], ["terms"]],
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
    { control: "colour", path: ["ground"], label: "Background" },
  ],
  html(props, ctx) {
    const { theme } = ctx;
    const words = (part: "title" | "terms", size: number, bold: boolean) =>
      html`<div${ctx.text(part)}${wordAttrs(theme, { font: "body", size, lineHeight: 1.4, colour: bold ? "ink" : "quiet", bold })}>${lineMarkup(props[part], "html")}</div>`;
    const code = dress(
      theme,
      { ink: props.colour },
      {
        "font-family": FONTS.mono.stack,
        "font-size": "26px",
        "line-height": "36px",
        "font-weight": 700,
        "letter-spacing": "2px",
        padding: "6px 0",
      },
    );
    const cell = dress(
      theme,
      { ground: props.ground, rule: props.colour },
      {
        border: `2px dashed ${resolveColour(props.colour, theme)}`,
        padding: "18px 20px",
        "text-align": "center",
        "border-radius": `${theme.corner}px`,
      },
      { cell: true },
    );
    return oneCell(
      html` align="center"${cell}`,
      html`${props.parts.title && words("title", theme.type.body, true)}<div${ctx.text("code")}${code}>${lineMarkup(props.code, "html")}</div>${props.parts.terms && words("terms", 14, false)}`,
    );
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
