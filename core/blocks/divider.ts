import { z } from "zod";
import { blockShape, box, pad } from "../kinds/common.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { css, html, plain } from "../text/index.ts";
import { colourSchema, resolveColour } from "../theme/theme.ts";

const schema = z.strictObject({
  ...blockShape,
  colour: colourSchema,
  thickness: z.number().int().min(1).max(12),
  pattern: z.enum(["solid", "dashed", "dotted"]),
});
type Divider = z.infer<typeof schema>;

export const divider: BlockKind<Divider> = {
  type: "divider",
  label: "Divider",
  group: "layout",
  icon: "minus",
  schema,
  create: () => ({
    box: box(pad(16, 28)),
    show: "both",
    colour: "line",
    thickness: 1,
    pattern: "solid",
  }),
  texts: [],
  content: [],
  style: [
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
    const rule = `${props.thickness}px ${props.pattern} ${resolveColour(props.colour, ctx.theme)}`;
    return html`<table role="presentation" width="100%" border="0" cellpadding="0" cellspacing="0"><tr><td height="1" style="${css({ "border-top": rule, "font-size": "1px", "line-height": "1px" })}">&nbsp;</td></tr></table>`;
  },
  text: () => plain`${"-".repeat(40)}`,
};
