import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockContext, BlockKind, Finding } from "../kinds/kind.ts";
import { html, join, lineMarkup, type Markup, plain } from "../markup/index.ts";
import { languageOf, phrases } from "../phrases/index.ts";
import { isBlank, line, lineSchema, linkSchema } from "../text/index.ts";
import { colourSchema, FONTS, resolveColour } from "../theme/theme.ts";
import { BARCODE_SIZE, BARCODES, barcodeProblem } from "./barcodes.ts";
import { buttonFindings, buttonHtml } from "./button-look.ts";
import { oneCell } from "./columns.ts";
import { linkText } from "./link-item.ts";
import { imgTag, made, placed } from "./picture.ts";
import { wordAttrs } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  title: lineSchema,
  /** The same code for every reader. */
  code: lineSchema,
  terms: lineSchema,
  /** Words of the button, and where it leads. */
  action: lineSchema,
  to: linkSchema,
  /** The last day it is good for (ISO date). */
  until: z.iso.date().nullable(),
  /** What a till reads: nothing but the code, lines for any letters, or the number of a product. */
  barcode: z.enum(["none", ...BARCODES]),
  parts: z.strictObject({
    title: z.boolean(),
    terms: z.boolean(),
    until: z.boolean(),
    action: z.boolean(),
  }),
  colour: colourSchema,
  ground: colourSchema,
});
type Coupon = z.infer<typeof schema>;

/** A barcode as it stands on a page, px: wide enough for a till that reads it off a telephone. */
const BARS = { width: BARCODE_SIZE.width / 2, height: BARCODE_SIZE.height / 2 } as const;

/** The code as lines; on white, in the dark too, since tills read nothing else. */
function barcodeHtml(props: Coupon, ctx: BlockContext): Markup | null {
  if (props.barcode === "none" || isBlank(props.code)) return null;
  const width = Math.min(BARS.width, ctx.width);
  const img = imgTag(
    ctx,
    {
      src: made({ kind: "barcode", words: props.code, settings: { form: props.barcode } }),
      alt: html`${phrases(languageOf(ctx.lang)).barcode}: ${lineMarkup(props.code, "attribute")}`,
      width,
      height: Math.round((width * BARS.height) / BARS.width),
    },
    { backing: "#ffffff" },
  );
  const apart = dress(ctx.theme, {}, { padding: "0 0 8px 0" });
  return oneCell(apart, placed(img, width, "center", ctx));
}

/** The last day as the reader's language writes it, or nothing. */
function lastDay({ until, parts }: Coupon, lang: string): string | null {
  if (!until || !parts.until) return null;
  const day = new Date(`${until}T00:00Z`);
  const words = day.toLocaleDateString(lang, { dateStyle: "long", timeZone: "UTC" });
  return phrases(languageOf(lang)).until(words);
}

function actionHtml(props: Coupon, ctx: BlockContext): Markup {
  const button = buttonHtml(
    {
      ...{ label: props.action, to: props.to, look: "filled", fill: "accent", colour: "onAccent" },
      ...{ corner: ctx.theme.corner, size: 16, full: false, fullOnNarrow: false },
      ...{ align: "center", text: "action", width: ctx.width },
    },
    ctx,
  );
  return oneCell(dress(ctx.theme, {}, { padding: "12px 0 0 0" }), button);
}

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
    action: line("Use it now"),
    to: { kind: "none" },
    until: null,
    barcode: "none",
    parts: { title: true, terms: true, until: false, action: false },
    colour: "accent",
    ground: "tint",
  }),
  partOf: { to: "action" },
  examples: [["title"], ["code"], ["terms"]],
  texts: [
    { path: ["title"], kind: "line", label: "Title" },
    { path: ["code"], kind: "line", label: "Code" },
    { path: ["terms"], kind: "line", label: "Terms" },
    { path: ["action"], kind: "line", label: "Button" },
  ],
  content: [
    { control: "line", path: ["title"], label: "Title" },
    { control: "line", path: ["code"], label: "Code" },
    { control: "line", path: ["terms"], label: "Terms" },
    { control: "day", path: ["until"], label: "Last day" },
    {
      control: "choice",
      path: ["barcode"],
      label: "Barcode",
      options: [
        { value: "none", label: "None" },
        { value: "code128", label: "Code 128" },
        { value: "ean13", label: "EAN-13" },
      ],
    },
    { control: "line", path: ["action"], label: "Button" },
    { control: "link", path: ["to"], label: "The button links to" },
    { control: "switch", path: ["parts", "title"], label: "With the title" },
    { control: "switch", path: ["parts", "terms"], label: "With the terms" },
    { control: "switch", path: ["parts", "until"], label: "With the last day" },
    { control: "switch", path: ["parts", "action"], label: "With a button" },
  ],
  style: [
    { control: "colour", path: ["colour"], label: "Code and border" },
    { control: "colour", path: ["ground"], label: "Background inside" },
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
        margin: "6px 0",
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
    const last = lastDay(props, ctx.lang);
    const small = { font: "body", size: 14, lineHeight: 1.4, colour: "quiet" } as const;
    const until = last && html`<div${wordAttrs(theme, small)}>${last}</div>`;
    const title = props.parts.title && words("title", theme.type.body, true);
    const terms = props.parts.terms && words("terms", 14, false);
    const said = html`<p${ctx.text("code")}${code}>${lineMarkup(props.code, "html")}</p>`;
    return oneCell(
      html` align="center"${cell}`,
      html`${title}${said}${barcodeHtml(props, ctx)}${until}${terms}${props.parts.action && actionHtml(props, ctx)}`,
    );
  },
  ends: ({ until, parts }) => (parts.until ? until : null),
  text(props, ctx) {
    const { lang } = ctx;
    const last = lastDay(props, lang);
    const lines = [
      props.parts.title ? lineMarkup(props.title, "text") : null,
      plain`${phrases(languageOf(lang)).code}: ${lineMarkup(props.code, "text")}`,
      last === null ? null : plain`${last}`,
      props.parts.terms ? lineMarkup(props.terms, "text") : null,
      props.parts.action ? linkText({ label: props.action, to: props.to }, ctx) : null,
    ];
    return join(
      lines.filter((one) => one !== null),
      "\n",
    );
  },
  checks(props) {
    const findings: Omit<Finding, "at">[] = [];
    const look = (check: string, path: string, message: string, detail: string) =>
      findings.push({ check, severity: "look", message, detail, in: [path] });
    if (isBlank(props.code)) {
      look("empty-coupon", "code", "A coupon has no code", "Write the code that readers use.");
    } else {
      const problem = barcodeProblem(props.barcode, props.code);
      if (problem) look("barcode", "code", "A till cannot read this barcode", problem);
    }
    return [
      ...findings,
      ...(props.parts.action ? buttonFindings(props.action, props.to, "to") : []),
    ];
  },
};
