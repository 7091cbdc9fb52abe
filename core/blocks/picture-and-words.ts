import { z } from "zod";
import { blockShape, pad, sideOf, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockContext, BlockKind } from "../kinds/kind.ts";
import {
  docMarkup,
  docText,
  html,
  inlineMarkup,
  inlineText,
  join,
  linkedThrough,
  type Markup,
  trusted,
} from "../markup/index.ts";
import {
  doc,
  docSchema,
  line,
  lineSchema,
  linkSchema,
  phrase,
  phraseSchema,
} from "../text/index.ts";
import { colourSchema } from "../theme/theme.ts";
import { BUTTON_LOOKS, buttonFindings, buttonHtml, buttonLookSchema } from "./button-look.ts";
import { type Column, fixedColumns, oneCell, stackingColumns } from "./columns.ts";
import { linkText } from "./link-item.ts";
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
import { textLook, wordAttrs } from "./type-style.ts";

export const pictureAndWordsSchema = z.strictObject({
  ...blockShape,
  ...pictureShape,
  title: phraseSchema,
  words: docSchema,
  to: linkSchema,
  /** Which parts are there. */
  parts: z.strictObject({
    picture: z.boolean(),
    title: z.boolean(),
    words: z.boolean(),
    button: z.boolean(),
  }),
  /** Of the title, in the outline of the email. */
  level: z.union([z.literal(2), z.literal(3), z.literal(4)]),
  /** The title leads where the picture does. */
  linkTitle: z.boolean(),
  /** Of the button, which leads there too. */
  button: lineSchema,
  look: buttonLookSchema,
  fill: colourSchema,
  onFill: colourSchema,
  /** The picture's share of the width, per cent. */
  share: z.number().int().min(20).max(80),
  side: z.enum(["start", "end"]),
  /** What comes first where they stack, or whether they stay side by side. */
  onNarrow: z.enum(["picture", "words", "keep"]),
  corner: z.number().int().min(0).max(60),
});
export type PictureAndWords = z.infer<typeof pictureAndWordsSchema>;

/** Pixels between picture and words. */
const GAP = 20;

function wordsHtml(props: PictureAndWords, ctx: BlockContext): Markup {
  const { theme } = ctx;
  const gap = Math.round(theme.type.body * 0.75);
  const look = textLook(ctx, { link: "link", ink: "ink", gap });
  const titleLook = wordAttrs(theme, {
    font: "heading",
    size: theme.type.heading3,
    lineHeight: 1.3,
    colour: "ink",
    bold: true,
    more: { margin: "0 0 6px 0" },
  });
  const body = wordAttrs(theme, {
    font: "body",
    size: theme.type.body,
    lineHeight: 1.5,
    colour: "ink",
  });
  const said = props.linkTitle ? linkedThrough(props.title, props.to) : props.title;
  const name = trusted(`h${props.level}`);
  const title = props.parts.title
    ? html`<${name}${ctx.text("title")}${titleLook}>${inlineMarkup(said.content ?? [], look)}</${name}>`
    : null;
  const words = props.parts.words
    ? html`<div${ctx.text("words")}${body}>${docMarkup(props.words, look)}</div>`
    : null;
  return html`${title}${words}${props.parts.button && buttonBelow(props, ctx)}`;
}

function buttonBelow(props: PictureAndWords, ctx: BlockContext): Markup {
  const { button: label, to, look, fill, onFill } = props;
  const { corner } = ctx.theme;
  const button = buttonHtml(
    {
      ...{ label, to, look, fill, corner, size: 15, text: "button", width: ctx.width },
      ...{ colour: onFill, full: false, fullOnNarrow: false, align: "start" },
    },
    ctx,
  );
  return oneCell(dress(ctx.theme, {}, { padding: "12px 0 0 0" }), button);
}

/** The room between the two is padding on the picture's side, so that the table-only engine keeps it. */
const cell = (inner: Markup, padding: string, side: string, stacks: boolean) =>
  oneCell(
    html` align="${side}"${stacks && html` class="pw"`} style="padding:${padding};text-align:${side}"`,
    inner,
  );

export const pictureAndWords: BlockKind<PictureAndWords> = {
  type: "pictureAndWords",
  label: "Image and text",
  group: "pictures",
  icon: "layout-list",
  schema: pictureAndWordsSchema,
  create: () => ({
    ...standing(pad(12, 28)),
    ...newPicture(null, line()),
    title: phrase("What it is"),
    words: doc("Two or three sentences beside the image."),
    to: { kind: "none" },
    parts: { picture: true, title: true, words: true, button: false },
    level: 3,
    linkTitle: false,
    button: line("Read more"),
    look: "filled",
    fill: "button",
    onFill: "onButton",
    share: 40,
    side: "start",
    onNarrow: "picture",
    corner: 4,
  }),
  partOf: {
    ...pictureOf("picture"),
    ...{ share: "picture", side: "picture", onNarrow: "picture", corner: "picture" },
    ...{ level: "title", linkTitle: "title" },
    ...{ look: "button", fill: "button", onFill: "button" },
  },
  examples: [["title"], ["words"]],
  texts: [
    { path: ["title"], kind: "phrase", label: "Title" },
    { path: ["words"], kind: "doc", label: "Text" },
    { path: ["button"], kind: "line", label: "Button" },
    { path: ["alt"], kind: "line", label: "Alt text" },
  ],
  content: [
    { control: "onSheet", label: "Write the title and the text on the sheet: double-click them." },
    ...pictureControls,
    { control: "link", path: ["to"], label: "The image links to" },
    { control: "switch", path: ["linkTitle"], label: "The title links there too" },
    {
      control: "choice",
      path: ["level"],
      label: "Level of the title",
      options: [2, 3, 4].map((value) => ({ value, label: String(value) })),
    },
    { control: "line", path: ["button"], label: "Button" },
    { control: "switch", path: ["parts", "picture"], label: "With the image" },
    { control: "switch", path: ["parts", "title"], label: "With the title" },
    { control: "switch", path: ["parts", "words"], label: "With the text" },
    { control: "switch", path: ["parts", "button"], label: "With a button" },
  ],
  style: [
    {
      control: "number",
      path: ["share"],
      label: "Image width",
      min: 20,
      max: 80,
      unit: "%",
    },
    {
      control: "choice",
      path: ["side"],
      label: "Image",
      options: [
        { value: "start", label: "Before the text" },
        { value: "end", label: "After the text" },
      ],
    },
    {
      control: "choice",
      path: ["onNarrow"],
      label: "On narrow",
      options: [
        { value: "picture", label: "Image first" },
        { value: "words", label: "Text first" },
        { value: "keep", label: "Side by side" },
      ],
    },
    { control: "number", path: ["corner"], label: "Corners", min: 0, max: 60, unit: "px" },
    { control: "choice", path: ["look"], label: "Look of the button", options: BUTTON_LOOKS },
    { control: "colour", path: ["fill"], label: "Button colour" },
    { control: "colour", path: ["onFill"], label: "Text of the button" },
    backingControl,
  ],
  title: ({ level, title, parts }) => (parts.title ? { level, words: title } : null),
  html(props, ctx) {
    const words = wordsHtml(props, ctx);
    if (!props.parts.picture) return words;
    const width = Math.round((ctx.width * props.share) / 100);
    const options = { corner: props.corner, to: props.to };
    if (!props.parts.title && !props.parts.words && !props.parts.button) {
      return pictureHtml(props, ctx, { width: ctx.width, ...options });
    }
    const { dir } = ctx;
    const before = props.side === "start";
    const start = sideOf("start", dir);
    const stacks = props.onNarrow !== "keep";
    const pad = before === (dir === "ltr") ? `0 ${GAP}px 0 0` : `0 0 0 ${GAP}px`;
    const picture: Column = {
      width,
      html: cell(
        pictureHtml(props, ctx, { width: Math.max(1, width - GAP), ...options }),
        pad,
        start,
        stacks,
      ),
    };
    const text: Column = { width: ctx.width - width, html: cell(words, "0", start, stacks) };
    if (!stacks) {
      return fixedColumns(before ? [picture, text] : [text, picture], "top", dir);
    }
    const pictureFirst = props.onNarrow === "picture";
    // On wide the order is the side's; where narrow wants the other, the source is turned around.
    return stackingColumns(pictureFirst ? [picture, text] : [text, picture], {
      valign: "top",
      dir,
      turned: pictureFirst !== before,
    });
  },
  text(props, ctx) {
    const { parts } = props;
    return join(
      [
        parts.picture ? pictureText(props, ctx, props.to) : null,
        parts.title ? inlineText(props.title.content ?? [], ctx.node) : null,
        parts.words ? docText(props.words, ctx.node) : null,
        parts.button ? linkText({ label: props.button, to: props.to }, ctx) : null,
      ].filter((part) => part !== null && part.segments.length > 0),
      "\n\n",
    );
  },
  checks: (props) => [
    ...(props.parts.picture ? pictureFindings(props, props.to) : []),
    ...(props.parts.button ? buttonFindings(props.button, props.to, "to") : []),
  ],
};
