import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { docMarkup, docText, html, lineMarkup, plain } from "../markup/index.ts";
import { doc, docSchema, isBlank, line, lineSchema } from "../text/index.ts";
import { colourSchema, resolveColour } from "../theme/theme.ts";
import { oneCell } from "./columns.ts";
import { PLAIN_TYPE, textLook, typeSchema, wordAttrs } from "./type-style.ts";

const STARS = 5;

const schema = z.strictObject({
  ...blockShape,
  words: docSchema,
  who: lineSchema,
  /** 0 shows none. */
  stars: z.number().int().min(0).max(STARS),
  colour: colourSchema,
  mark: colourSchema,
  type: typeSchema,
});
type Quote = z.infer<typeof schema>;

const starsOf = (stars: number) => "★".repeat(stars) + "☆".repeat(STARS - stars);

export const quote: BlockKind<Quote> = {
  type: "quote",
  label: "Quote",
  group: "words",
  icon: "quote",
  schema,
  create: () => ({
    ...standing(pad(16, 28)),
    words: doc("What somebody said about you, in their own words."),
    who: line("Who said it"),
    stars: 0,
    colour: "ink",
    mark: "accent",
    type: PLAIN_TYPE,
  }),
  examples: [["words"], ["who"]],
  texts: [
    { path: ["words"], kind: "doc", label: "Text" },
    { path: ["who"], kind: "line", label: "Who said it" },
  ],
  content: [
    {
      control: "onSheet",
      label: "Write the text on the sheet: double-click it, or press Enter.",
    },
    { control: "line", path: ["who"], label: "Who said it" },
    { control: "number", path: ["stars"], label: "Stars", min: 0, max: STARS, unit: "of 5" },
  ],
  style: [
    { control: "colour", path: ["colour"], label: "Text colour" },
    { control: "colour", path: ["mark"], label: "Line colour" },
    { control: "type", path: ["type"], label: "Type" },
  ],
  html(props, ctx) {
    const { theme, dir } = ctx;
    const size = props.type.size ?? theme.type.body + 2;
    const look = textLook(ctx, { link: props.colour, gap: Math.round(size * 0.6) });
    const attributes = wordAttrs(
      theme,
      {
        font: "heading",
        size,
        lineHeight: 1.5,
        colour: props.colour,
        more: { "font-style": "italic" },
      },
      props.type,
    );
    const stars = props.stars
      ? html`<div role="img" aria-label="${props.stars} of ${STARS} stars"${dress(theme, { ink: props.mark }, { "font-size": "18px", "line-height": "24px" })}>${starsOf(props.stars)}</div>`
      : null;
    const who = isBlank(props.who)
      ? null
      : html`<div${wordAttrs(theme, { font: "body", size: 14, lineHeight: 1.5, colour: "quiet", more: { padding: "8px 0 0 0" } })}>— <span${ctx.text("who")}>${lineMarkup(props.who, "html")}</span></div>`;
    const rule = `3px solid ${resolveColour(props.mark, theme)}`;
    const cell = dress(
      theme,
      { rule: props.mark },
      dir === "rtl"
        ? { "border-right": rule, padding: "2px 18px 2px 0" }
        : { "border-left": rule, padding: "2px 0 2px 18px" },
    );
    return oneCell(
      cell,
      html`${stars}<div${ctx.text("words")}${attributes}>${docMarkup(props.words, look)}</div>${who}`,
    );
  },
  text(props, ctx) {
    const stars = props.stars ? plain`${props.stars} of ${STARS} stars\n` : null;
    const who = isBlank(props.who) ? null : plain`\n— ${lineMarkup(props.who, "text")}`;
    return plain`${stars}“${docText(props.words, ctx.node)}”${who}`;
  },
};
