import { z } from "zod";
import { blockShape, box, pad } from "../kinds/common.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { doc, docMarkup, docSchema, docText, html } from "../text/index.ts";
import { colourSchema, resolveColour } from "../theme/theme.ts";
import { wordStyle } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  words: docSchema,
  /** Null: the theme's size. */
  size: z.number().int().min(10).max(40).nullable(),
  colour: colourSchema,
  linkColour: colourSchema,
});
type Text = z.infer<typeof schema>;

export const text: BlockKind<Text> = {
  type: "text",
  label: "Text",
  group: "words",
  icon: "align-left",
  schema,
  create: () => ({
    box: box(pad(8, 28)),
    show: "both",
    words: doc("Write here: a few short sentences that say what this is about, and for whom."),
    size: null,
    colour: "ink",
    linkColour: "accent",
  }),
  texts: [{ path: ["words"], kind: "doc", label: "Words" }],
  content: [
    {
      control: "onSheet",
      label: "Write the words on the sheet: double-click them, or press Enter.",
    },
  ],
  style: [
    { control: "colour", path: ["colour"], label: "Colour of the words" },
    { control: "colour", path: ["linkColour"], label: "Colour of links" },
    { control: "number", path: ["size"], label: "Size", min: 10, max: 40, unit: "px" },
  ],
  html(props, ctx) {
    const size = props.size ?? ctx.theme.type.body;
    const style = wordStyle(ctx.theme, {
      font: ctx.theme.fonts.body,
      size,
      lineHeight: 1.5,
      colour: props.colour,
    });
    const words = docMarkup(props.words, {
      node: ctx.node,
      linkColour: resolveColour(props.linkColour, ctx.theme),
      paragraphGap: Math.round(size * 0.75),
    });
    return html`<div${ctx.text("words")} style="${style}">${words}</div>`;
  },
  text: (props, ctx) => docText(props.words, ctx.node),
};
