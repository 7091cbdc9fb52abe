import { z } from "zod";
import { blockShape, box, pad } from "../kinds/common.ts";
import type { BlockKind } from "../kinds/kind.ts";
import {
  css,
  doc,
  docMarkup,
  docSchema,
  docText,
  html,
  isBlank,
  line,
  lineMarkup,
  lineSchema,
  plain,
} from "../text/index.ts";
import { colourSchema, resolveColour } from "../theme/theme.ts";
import { wordStyle } from "./type-style.ts";

const STARS = 5;

const schema = z.strictObject({
  ...blockShape,
  words: docSchema,
  who: lineSchema,
  /** 0 shows none. */
  stars: z.number().int().min(0).max(STARS),
  colour: colourSchema,
  mark: colourSchema,
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
    box: box(pad(16, 28)),
    show: "both",
    words: doc("What somebody said about you, in their own words."),
    who: line("Who said it"),
    stars: 0,
    colour: "ink",
    mark: "accent",
  }),
  texts: [
    { path: ["words"], kind: "doc", label: "Words" },
    { path: ["who"], kind: "line", label: "Who said it" },
  ],
  content: [
    {
      control: "onSheet",
      label: "Write the words on the sheet: double-click them, or press Enter.",
    },
    { control: "line", path: ["who"], label: "Who said it" },
    { control: "number", path: ["stars"], label: "Stars", min: 0, max: STARS, unit: "of 5" },
  ],
  style: [
    { control: "colour", path: ["colour"], label: "Colour of the words" },
    { control: "colour", path: ["mark"], label: "Colour of the line" },
  ],
  html(props, ctx) {
    const { theme } = ctx;
    const mark = resolveColour(props.mark, theme);
    const size = theme.type.body + 2;
    const words = docMarkup(props.words, {
      node: ctx.node,
      linkColour: resolveColour(props.colour, theme),
      paragraphGap: Math.round(size * 0.6),
    });
    const style = wordStyle(theme, {
      font: theme.fonts.heading,
      size,
      lineHeight: 1.5,
      colour: props.colour,
      more: { "font-style": "italic" },
    });
    const small = (colour: "quiet" | "ink") =>
      wordStyle(theme, { font: theme.fonts.body, size: 14, lineHeight: 1.5, colour });
    const stars = props.stars
      ? html`<div role="img" aria-label="${props.stars} of ${STARS} stars" style="${css({ "font-size": "18px", "line-height": "24px", color: mark })}">${starsOf(props.stars)}</div>`
      : null;
    const who = isBlank(props.who)
      ? null
      : html`<div style="${small("quiet")};padding:8px 0 0 0">— <span${ctx.text("who")}>${lineMarkup(props.who, "html")}</span></div>`;
    return html`<table role="presentation" width="100%" border="0" cellpadding="0" cellspacing="0" style="width:100%"><tr><td style="${css({ "border-left": `3px solid ${mark}`, padding: "2px 0 2px 18px" })}">${stars}<div${ctx.text("words")} style="${style}">${words}</div>${who}</td></tr></table>`;
  },
  text(props, ctx) {
    const stars = props.stars ? plain`${props.stars} of ${STARS} stars\n` : null;
    const who = isBlank(props.who) ? null : plain`\n— ${lineMarkup(props.who, "text")}`;
    return plain`${stars}“${docText(props.words, ctx.node)}”${who}`;
  },
};
