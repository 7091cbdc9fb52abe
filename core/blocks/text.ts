import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { docMarkup, docText, html } from "../markup/index.ts";
import { doc, docSchema } from "../text/index.ts";
import { colourSchema } from "../theme/theme.ts";
import { PLAIN_TYPE, textLook, typeSchema, wordAttrs } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  words: docSchema,
  colour: colourSchema,
  linkColour: colourSchema,
  linkUnderline: z.boolean(),
  type: typeSchema,
});
type Text = z.infer<typeof schema>;

export const text: BlockKind<Text> = {
  type: "text",
  label: "Text",
  group: "words",
  icon: "align-left",
  schema,
  create: () => ({
    ...standing(pad(8, 28)),
    words: doc("Write here: a few short sentences that say what this is about, and for whom."),
    colour: "ink",
    linkColour: "link",
    linkUnderline: true,
    type: PLAIN_TYPE,
  }),
  examples: [["words"]],
  texts: [{ path: ["words"], kind: "doc", label: "Text" }],
  content: [
    {
      control: "onSheet",
      label: "Write the text on the sheet: double-click it, or press Enter.",
    },
  ],
  style: [
    { control: "colour", path: ["colour"], label: "Text colour" },
    { control: "colour", path: ["linkColour"], label: "Link colour" },
    { control: "switch", path: ["linkUnderline"], label: "Links underlined" },
    { control: "type", path: ["type"], label: "Type" },
  ],
  html(props, ctx) {
    const size = props.type.size ?? ctx.theme.type.body;
    const attributes = wordAttrs(
      ctx.theme,
      { font: "body", size, lineHeight: 1.5, colour: props.colour },
      props.type,
    );
    const look = textLook(ctx, {
      link: props.linkColour,
      ink: props.colour,
      gap: Math.round(size * 0.75),
      underline: props.linkUnderline,
    });
    return html`<div${ctx.text("words")}${attributes}>${docMarkup(props.words, look)}</div>`;
  },
  text: (props, ctx) => docText(props.words, ctx.node),
};
