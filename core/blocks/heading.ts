import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { html, inlineMarkup, inlineText, plain, RULE, trusted } from "../markup/index.ts";
import { isBlank, phrase, phraseSchema } from "../text/index.ts";
import { type Colour, colourSchema } from "../theme/theme.ts";
import { PLAIN_TYPE, textLook, typeSchema, wordAttrs } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  words: phraseSchema,
  level: z.union([z.literal(1), z.literal(2), z.literal(3)]),
  colour: colourSchema,
  type: typeSchema,
});
type Heading = z.infer<typeof schema>;

/** The role of headings is that of their level. */
const colourAt = ({ colour, level }: Heading): Colour =>
  colour === "heading" && level > 1 ? `heading${level as 2 | 3}` : colour;

export const heading: BlockKind<Heading> = {
  type: "heading",
  label: "Heading",
  group: "words",
  icon: "heading",
  schema,
  create: () => ({
    ...standing(pad(20, 28, 4)),
    words: phrase("A new heading"),
    level: 1,
    colour: "heading",
    type: PLAIN_TYPE,
  }),
  examples: [["words"]],
  texts: [{ path: ["words"], kind: "phrase", label: "Text" }],
  content: [
    {
      control: "onSheet",
      label: "Write the text on the sheet: double-click it, or press Enter.",
    },
    {
      control: "choice",
      path: ["level"],
      label: "Level",
      options: [1, 2, 3].map((value) => ({ value, label: String(value) })),
    },
  ],
  style: [
    { control: "colour", path: ["colour"], label: "Text colour" },
    { control: "type", path: ["type"], label: "Type" },
  ],
  title: ({ level, words }) => ({ level, words }),
  html(props, ctx) {
    const attributes = wordAttrs(
      ctx.theme,
      {
        font: "heading",
        size: ctx.theme.type[`heading${props.level}`],
        lineHeight: 1.25,
        colour: colourAt(props),
        bold: props.level > 1,
        heading: true,
        more: { margin: "0" },
      },
      props.type,
    );
    const name = trusted(`h${props.level}`);
    const words = inlineMarkup(
      props.words.content ?? [],
      textLook(ctx, { link: colourAt(props), ink: colourAt(props), gap: 0 }),
    );
    return html`<${name}${ctx.text("words")}${attributes}>${words}</${name}>`;
  },
  text(props, ctx) {
    const words = inlineText(props.words.content ?? [], ctx.node);
    if (isBlank(props.words)) return plain`${words}`;
    return plain`${words}\n${props.level === 1 ? RULE.double : RULE.single}`;
  },
};
