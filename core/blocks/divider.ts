import { z } from "zod";
import { blockShape, pad, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { html, plain } from "../markup/index.ts";
import { colourSchema, resolveColour } from "../theme/theme.ts";
import { oneCell } from "./columns.ts";
import { placed } from "./picture.ts";

const schema = z.strictObject({
  ...blockShape,
  colour: colourSchema,
  thickness: z.number().int().min(1).max(12),
  pattern: z.enum(["solid", "dashed", "dotted"]),
  /** Of the width it could take, per cent. */
  share: z.number().int().min(5).max(100),
});
type Divider = z.infer<typeof schema>;

export const divider: BlockKind<Divider> = {
  type: "divider",
  label: "Divider",
  group: "layout",
  icon: "minus",
  schema,
  create: () => ({
    ...standing(pad(16, 28)),
    colour: "line",
    thickness: 1,
    pattern: "solid",
    share: 100,
  }),
  texts: [],
  content: [],
  style: [
    { control: "number", path: ["share"], label: "Width", min: 5, max: 100, unit: "%" },
    { control: "colour", path: ["colour"], label: "Colour" },
    { control: "number", path: ["thickness"], label: "Thickness", min: 1, max: 12, unit: "px" },
    {
      control: "choice",
      path: ["pattern"],
      label: "Pattern",
      options: [
        { value: "solid", label: "Line" },
        { value: "dashed", label: "Dashes" },
        { value: "dotted", label: "Dots" },
      ],
    },
  ],
  html(props, ctx) {
    const line = `${props.thickness}px ${props.pattern} ${resolveColour(props.colour, ctx.theme)}`;
    const cell = dress(
      ctx.theme,
      { rule: props.colour },
      { "border-top": line, "font-size": "1px", "line-height": "1px" },
    );
    const rule = oneCell(html` height="1"${cell}`, html`&nbsp;`);
    if (props.share === 100) return rule;
    const width = Math.max(1, Math.round((ctx.width * props.share) / 100));
    return placed(rule, width, props.box.align, ctx);
  },
  text: () => plain`${"-".repeat(40)}`,
};
