import { z } from "zod";
import { blockShape, box, pad } from "../kinds/common.ts";
import type { BlockKind } from "../kinds/kind.ts";
import {
  html,
  inlineMarkup,
  inlineText,
  phrase,
  phraseSchema,
  plain,
  trusted,
} from "../text/index.ts";
import { colourSchema, resolveColour } from "../theme/theme.ts";
import { wordStyle } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  words: phraseSchema,
  level: z.union([z.literal(1), z.literal(2), z.literal(3)]),
  colour: colourSchema,
});
type Heading = z.infer<typeof schema>;

export const heading: BlockKind<Heading> = {
  type: "heading",
  label: "Heading",
  group: "words",
  icon: "heading",
  schema,
  create: () => ({
    box: box(pad(20, 28, 4)),
    show: "both",
    words: phrase("A new heading"),
    level: 1,
    colour: "accent",
  }),
  texts: [{ path: ["words"], kind: "phrase", label: "Words" }],
  content: [
    {
      control: "onSheet",
      label: "Write the words on the sheet: double-click them, or press Enter.",
    },
    {
      control: "choice",
      path: ["level"],
      label: "Level",
      options: [1, 2, 3].map((value) => ({ value, label: String(value) })),
    },
  ],
  style: [{ control: "colour", path: ["colour"], label: "Colour of the words" }],
  html(props, ctx) {
    const size = ctx.theme.type[`heading${props.level}`];
    const style = wordStyle(ctx.theme, {
      font: ctx.theme.fonts.heading,
      size,
      lineHeight: 1.25,
      colour: props.colour,
      weight: props.level === 1 ? 400 : 700,
      more: { margin: "0", padding: "0" },
    });
    const name = trusted(`h${props.level}`);
    const look = {
      node: ctx.node,
      linkColour: resolveColour(props.colour, ctx.theme),
      paragraphGap: 0,
    };
    const words = inlineMarkup(props.words.content ?? [], look);
    return html`<${name}${ctx.text("words")} style="${style}">${words}</${name}>`;
  },
  text: (props, ctx) => plain`${inlineText(props.words.content ?? [], ctx.node)}`,
};
