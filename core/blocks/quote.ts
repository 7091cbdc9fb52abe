import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockContext, BlockKind } from "../kinds/kind.ts";
import { docMarkup, docText, html, lineMarkup, Markup, plain } from "../markup/index.ts";
import { languageOf, phrases } from "../phrases/index.ts";
import { doc, docSchema, isBlank, line, lineSchema } from "../text/index.ts";
import { colourSchema, resolveColour } from "../theme/theme.ts";
import { type Column, fixedColumns, oneCell } from "./columns.ts";
import {
  backingControl,
  newPicture,
  pictureControls,
  pictureFindings,
  pictureHtml,
  pictureOf,
  pictureShape,
  pictureText,
} from "./picture.ts";
import { PLAIN_TYPE, textLook, typeSchema, wordAttrs } from "./type-style.ts";

const STARS = 5;

const schema = z.strictObject({
  ...blockShape,
  ...pictureShape,
  words: docSchema,
  who: lineSchema,
  /** 0 shows none. */
  stars: z.number().int().min(0).max(STARS),
  /** A round picture of who said it. */
  parts: z.strictObject({ portrait: z.boolean() }),
  colour: colourSchema,
  mark: colourSchema,
  type: typeSchema,
});
type Quote = z.infer<typeof schema>;

const starWords = (stars: number, { lang }: BlockContext) =>
  phrases(languageOf(lang)).stars(stars, STARS);
const starsOf = (stars: number) => "★".repeat(stars) + "☆".repeat(STARS - stars);

/** The line at its side, and between it and the words, px. */
const RULE = { width: 3, gap: 18 } as const;
/** Of the portrait, and between it and the name, px. */
const PORTRAIT = { size: 56, gap: 14 } as const;

/** Who said it, with their portrait. */
function portraitRow(props: Quote, who: Markup | null, ctx: BlockContext): Markup {
  const { size, gap } = PORTRAIT;
  const rest = Math.max(1, ctx.width - RULE.width - RULE.gap - size - gap);
  const columns: Column[] = [
    {
      width: size,
      rigid: true,
      html: pictureHtml(props, ctx, { width: size, height: size, corner: size / 2 }),
    },
    { width: gap, rigid: true, html: html`&nbsp;` },
    { width: rest, html: who ?? html`&nbsp;` },
  ];
  const row = fixedColumns(columns, "middle", ctx.dir);
  return oneCell(dress(ctx.theme, {}, { padding: "12px 0 0 0" }), row);
}

export const quote: BlockKind<Quote> = {
  type: "quote",
  label: "Quote",
  group: "words",
  icon: "quote",
  schema,
  create: () => ({
    ...standing(pad(16, 28)),
    ...newPicture(null, line()),
    words: doc("What somebody said about you, in their own words."),
    who: line("Who said it"),
    stars: 0,
    parts: { portrait: false },
    colour: "ink",
    mark: "accent",
    type: PLAIN_TYPE,
  }),
  partOf: pictureOf("portrait"),
  examples: [["words"], ["who"]],
  texts: [
    { path: ["words"], kind: "doc", label: "Text" },
    { path: ["who"], kind: "line", label: "Who said it" },
    { path: ["alt"], kind: "line", label: "Alt text" },
  ],
  content: [
    {
      control: "onSheet",
      label: "Write the text on the sheet: double-click it, or press Enter.",
    },
    { control: "line", path: ["who"], label: "Who said it" },
    { control: "number", path: ["stars"], label: "Stars", min: 0, max: STARS, unit: "of 5" },
    ...pictureControls,
    { control: "switch", path: ["parts", "portrait"], label: "With a portrait" },
  ],
  style: [
    { control: "colour", path: ["colour"], label: "Text colour" },
    { control: "colour", path: ["mark"], label: "Line colour" },
    backingControl,
    { control: "type", path: ["type"], label: "Type" },
  ],
  html(props, ctx) {
    const { theme, dir } = ctx;
    const size = props.type.size ?? theme.type.body + 2;
    const look = textLook(ctx, {
      link: props.colour,
      ink: props.colour,
      gap: Math.round(size * 0.6),
    });
    const attributes = wordAttrs(
      theme,
      {
        font: "heading",
        size,
        lineHeight: 1.5,
        colour: props.colour,
        more: { margin: "0", "font-style": "italic" },
      },
      props.type,
    );
    const stars = props.stars
      ? html`<div role="img" aria-label="${starWords(props.stars, ctx)}"${dress(theme, { ink: props.mark }, { "font-size": "18px", "line-height": "24px" })}>${starsOf(props.stars)}</div>`
      : null;
    const who = isBlank(props.who)
      ? null
      : html`<p${wordAttrs(theme, { font: "body", size: 14, lineHeight: 1.5, colour: "quiet", more: { margin: props.parts.portrait ? "0" : "8px 0 0 0" } })}>— <span${ctx.text("who")}>${lineMarkup(props.who, "html")}</span></p>`;
    const by = props.parts.portrait ? portraitRow(props, who, ctx) : who;
    const rule = `${RULE.width}px solid ${resolveColour(props.mark, theme)}`;
    const cell = dress(
      theme,
      { rule: props.mark },
      dir === "rtl"
        ? { "border-right": rule, padding: `2px ${RULE.gap}px 2px 0` }
        : { "border-left": rule, padding: `2px 0 2px ${RULE.gap}px` },
    );
    return oneCell(
      cell,
      html`${stars}<blockquote${ctx.text("words")}${attributes}>${docMarkup(props.words, look)}</blockquote>${by}`,
    );
  },
  text(props, ctx) {
    const stars = props.stars ? plain`${starWords(props.stars, ctx)}\n` : null;
    const who = isBlank(props.who) ? null : plain`\n— ${lineMarkup(props.who, "text")}`;
    const portrait = props.parts.portrait
      ? pictureText(props, ctx, { kind: "none" })
      : Markup.empty;
    const shown = portrait.segments.length > 0 && plain`\n${portrait}`;
    return plain`${stars}“${docText(props.words, ctx.node)}”${who}${shown}`;
  },
  checks: (props) => (props.parts.portrait ? pictureFindings(props) : []),
};
