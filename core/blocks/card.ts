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
import { addressText, attrs, html, join, joinShown } from "../markup/index.ts";
import { linkSchema } from "../text/index.ts";
import { colourSchema, inkOn, resolveColour } from "../theme/theme.ts";
import { LAYOUT_TABLE, oneCell } from "./columns.ts";

const schema = z.strictObject({
  ...blockShape,
  ground: colourSchema.nullable(),
  edge: borderSchema,
  corner: cornerSchema,
  /** Between the border and the blocks. */
  inner: paddingSchema,
  /** Where all in it leads that is no link itself. */
  to: linkSchema,
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
    ground: "card",
    edge: { width: 1, colour: "line" },
    corner: 6,
    inner: pad(8, 0),
    to: { kind: "none" },
  }),
  inner: innerWidth,
  texts: [],
  content: [{ control: "link", path: ["to"], label: "All in it links to" }],
  leadsAll: ({ to }) => to,
  style: [
    { control: "colour", path: ["ground"], label: "Background inside", none: "None" },
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
    const empty = html`<tr><td align="center" height="72"${dress(theme, {}, { "font-size": "14px", height: "72px" })}>&nbsp;</td></tr>`;
    const cell = dress(
      theme,
      {
        ink: props.ground && inkOn(props.ground, theme),
        ground: props.ground,
        rule: props.edge.width ? props.edge.colour : null,
      },
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
    const side = sideOf("start", dir);
    const held = html`${LAYOUT_TABLE} width="100%">${rows.length ? join(rows) : empty}</table>`;
    // As high as those beside it, its blocks stand at its head.
    if (!ctx.fills) return oneCell(html` align="${side}"${cell}`, held);
    return html`${LAYOUT_TABLE} width="100%" height="100%" style="height:100%"><tr><td${attrs({ align: side, valign: "top" })}${cell}>${held}</td></tr></table>`;
  },
  text(props, ctx) {
    const blocks = ctx.children.map((child) => ctx.block(child, innerWidth(props, ctx.width)).text);
    const address = addressText(props.to, ctx.node, "", "");
    return joinShown([...blocks, ...(address ? [{ when: null, text: address }] : [])], "\n\n");
  },
};
