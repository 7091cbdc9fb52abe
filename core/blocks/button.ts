import { z } from "zod";
import { type Align, blockShape, pad, sideOf, sidesCss, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockContext, BlockKind } from "../kinds/kind.ts";
import { split } from "../kinds/widths.ts";
import { html, type Markup } from "../markup/index.ts";
import { line, lineSchema, linkSchema } from "../text/index.ts";
import { colourSchema } from "../theme/theme.ts";
import {
  BUTTON_LOOKS,
  BUTTON_SIZE,
  buttonFindings,
  buttonHtml,
  buttonLookSchema,
} from "./button-look.ts";
import { oneCell, stackingColumns } from "./columns.ts";
import { flowRow } from "./flow.ts";
import { linkLines, webLink } from "./link-item.ts";

const schema = z.strictObject({
  ...blockShape,
  label: lineSchema,
  to: linkSchema,
  look: buttonLookSchema,
  fill: colourSchema,
  colour: colourSchema,
  corner: z.number().int().min(0).max(40),
  size: z.number().int().min(BUTTON_SIZE.min).max(BUTTON_SIZE.max),
  wide: z.enum(["words", "full"]),
  narrow: z.enum(["same", "full"]),
  /** A second one beside it. */
  parts: z.strictObject({ second: z.boolean() }),
  second: lineSchema,
  secondTo: linkSchema,
  secondLook: buttonLookSchema,
});
type Button = z.infer<typeof schema>;

/** Between two buttons, px. */
const GAP = 12;

type One = "label" | "second";
const ONES = {
  label: { to: "to", look: "look" },
  second: { to: "secondTo", look: "secondLook" },
} as const;
const shownOnes = ({ parts }: Button): One[] => (parts.second ? ["label", "second"] : ["label"]);

const linkOf = (props: Button, one: One) => props[ONES[one].to];

function oneHtml(
  props: Button,
  one: One,
  ctx: BlockContext,
  { align, width }: { align: Align; width: number },
): Markup {
  const { fill, colour, corner, size } = props;
  const look = {
    ...{ fill, colour, corner, size, align, width },
    label: props[one],
    to: linkOf(props, one),
    look: props[ONES[one].look],
    full: props.wide === "full",
    fullOnNarrow: props.narrow === "full",
    text: one,
  };
  return buttonHtml(look, ctx);
}

/** Two that fill their place side by side. */
function halves(props: Button, ctx: BlockContext): Markup {
  const { theme, dir } = ctx;
  const widths = split(Math.max(2, ctx.width - GAP), [1, 1]);
  const after = sidesCss({ ...pad(0, 0), right: GAP }, dir);
  const columns = shownOnes(props).map((one, i) => {
    const width = widths[i]!;
    const look = dress(theme, {}, { padding: i === 0 ? after : "0" }, { classes: ["pw"] });
    return {
      width: i === 0 ? width + GAP : width,
      html: oneCell(look, oneHtml(props, one, ctx, { align: "start", width })),
    };
  });
  return stackingColumns(columns, { valign: "top", dir });
}

/** Two as wide as their words, one after the other; where there is no room for both, one under the other. */
function pair(props: Button, ctx: BlockContext): Markup {
  const { theme, dir, width } = ctx;
  const { align } = props.box;
  const side = sideOf(align, dir);
  const padding = { left: `0 ${GAP}px 0 0`, center: `0 ${GAP / 2}px`, right: `0 0 0 ${GAP}px` };
  const look = dress(
    theme,
    {},
    { display: "inline-block", "vertical-align": "top", padding: padding[side] },
    { classes: [props.narrow === "full" ? "bf" : "bi"] },
  );
  const buttons = shownOnes(props).map(
    (one) => html`<div${look}>${oneHtml(props, one, ctx, { align: "start", width })}</div>`,
  );
  return flowRow(buttons, { gap: GAP / 2, align, dir });
}

export const button: BlockKind<Button> = {
  type: "button",
  label: "Button",
  group: "actions",
  icon: "mouse-pointer-click",
  schema,
  create: () => ({
    ...standing(pad(12, 28)),
    label: line("Read more"),
    to: webLink(),
    look: "filled",
    fill: "button",
    colour: "onButton",
    corner: 4,
    size: 16,
    wide: "words",
    narrow: "same",
    parts: { second: false },
    second: line("Another way"),
    secondTo: webLink(),
    secondLook: "outline",
  }),
  texts: [
    { path: ["label"], kind: "line", label: "Label" },
    { path: ["second"], kind: "line", label: "Second label" },
  ],
  partOf: { secondTo: "second", secondLook: "second" },
  examples: [["second"]],
  content: [
    { control: "line", path: ["label"], label: "Label" },
    { control: "link", path: ["to"], label: "Link to" },
    { control: "switch", path: ["parts", "second"], label: "A second button beside it" },
    { control: "line", path: ["second"], label: "Second label" },
    { control: "link", path: ["secondTo"], label: "The second links to" },
  ],
  style: [
    { control: "choice", path: ["look"], label: "Look", options: BUTTON_LOOKS },
    { control: "choice", path: ["secondLook"], label: "Look of the second", options: BUTTON_LOOKS },
    { control: "colour", path: ["fill"], label: "Button" },
    { control: "colour", path: ["colour"], label: "Text" },
    { control: "number", path: ["size"], label: "Size", ...BUTTON_SIZE, unit: "px" },
    { control: "number", path: ["corner"], label: "Corners", min: 0, max: 40, unit: "px" },
    {
      control: "choice",
      path: ["wide"],
      label: "Width",
      options: [
        { value: "words", label: "As wide as its text" },
        { value: "full", label: "Full" },
      ],
    },
    {
      control: "choice",
      path: ["narrow"],
      label: "On narrow",
      options: [
        { value: "same", label: "As on wide" },
        { value: "full", label: "Full" },
      ],
    },
  ],
  html(props, ctx) {
    if (props.parts.second) return props.wide === "full" ? halves(props, ctx) : pair(props, ctx);
    return oneHtml(props, "label", ctx, { align: props.box.align, width: ctx.width });
  },
  text: (props, ctx) =>
    linkLines(
      shownOnes(props).map((one) => ({ item: { label: props[one], to: linkOf(props, one) }, ctx })),
    ),
  checks: (props) =>
    shownOnes(props).flatMap((one) => buttonFindings(props[one], linkOf(props, one), ONES[one].to)),
};
