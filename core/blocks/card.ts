import { z } from "zod";
import { CARD } from "../document/index.ts";
import {
  blockShape,
  borderSchema,
  cornerSchema,
  pad,
  paddingSchema,
  sideOf,
  sidesCss,
  standing,
} from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockKind } from "../kinds/kind.ts";
import { LIMITS } from "../limits.ts";
import { html, join, joinShown } from "../markup/index.ts";
import { colourSchema, resolveColour } from "../theme/theme.ts";
import { LAYOUT_TABLE, oneCell } from "./columns.ts";

const schema = z.strictObject({
  ...blockShape,
  ground: colourSchema.nullable(),
  edge: borderSchema,
  corner: cornerSchema,
  /** Between the border and the blocks. */
  inner: paddingSchema,
});
type Card = z.infer<typeof schema>;

const innerWidth = ({ inner, edge }: Card, width: number) =>
  Math.max(1, width - inner.left - inner.right - 2 * edge.width);

/** A bordered group of blocks. */
export const card: BlockKind<Card> = {
  type: CARD,
  label: "Card",
  group: "layout",
  icon: "square-dashed",
  schema,
  create: () => ({
    ...standing(pad(12, 28)),
    ground: "sheet",
    edge: { width: 1, colour: "line" },
    corner: 6,
    inner: pad(8, 0),
  }),
  inner: innerWidth,
  texts: [],
  content: [],
  style: [
    { control: "colour", path: ["ground"], label: "Background", none: "None" },
    { control: "border", path: ["edge"], label: "Border" },
    {
      control: "number",
      path: ["corner"],
      label: "Corners",
      min: 0,
      max: LIMITS.corner,
      unit: "px",
    },
  ],
  html(props, ctx) {
    const { theme, dir } = ctx;
    const rows = ctx.children.map((child) => ctx.block(child, innerWidth(props, ctx.width)).html);
    const empty = html`<tr><td align="center" height="72"${dress(theme, { ink: "quiet" }, { "font-size": "14px", height: "72px" })}>&nbsp;</td></tr>`;
    const cell = dress(
      theme,
      { ground: props.ground, rule: props.edge.width ? props.edge.colour : null },
      {
        padding: sidesCss(props.inner, dir),
        border: props.edge.width
          ? `${props.edge.width}px solid ${resolveColour(props.edge.colour, theme)}`
          : null,
        "border-radius": props.corner ? `${props.corner}px` : null,
        "text-align": sideOf("start", dir),
      },
      { cell: true },
    );
    return oneCell(
      html` align="${sideOf("start", dir)}"${cell}`,
      html`${LAYOUT_TABLE} width="100%" style="width:100%">${rows.length ? join(rows) : empty}</table>`,
    );
  },
  text: (props, ctx) =>
    joinShown(
      ctx.children.map((child) => ctx.block(child, innerWidth(props, ctx.width)).text),
      "\n\n",
    ),
};
