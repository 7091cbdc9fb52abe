import { z } from "zod";
import { blockShape, pad, sideOf, standing } from "../kinds/common.ts";
import { createItem } from "../kinds/item.ts";
import type { BlockKind, ItemKind } from "../kinds/kind.ts";
import { html, join, lineMarkup, type Markup } from "../markup/index.ts";
import { isBlank, isEmptyLink, line, lineSchema, linkSchema, wordsOf } from "../text/index.ts";
import type { Colour } from "../theme/theme.ts";
import { LAYOUT_TABLE } from "./columns.ts";
import { gridHtml, onNarrowControl, onNarrowSchema, shapeControl, shapeSchema } from "./grid.ts";
import { itemsOf, linkedWords } from "./link-item.ts";
import {
  newPicture,
  pictureControls,
  pictureFindings,
  pictureHtml,
  pictureShape,
  pictureText,
} from "./picture.ts";
import { wordAttrs } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  perRow: z.number().int().min(2).max(4),
  /** px between two pictures, across and down. */
  gap: z.number().int().min(0).max(40),
  shape: shapeSchema,
  corner: z.number().int().min(0).max(60),
  captions: z.boolean(),
  parts: z.strictObject({ price: z.boolean(), action: z.boolean() }),
  onNarrow: onNarrowSchema,
});
type PictureGrid = z.infer<typeof schema>;

const itemSchema = z.strictObject({
  ...pictureShape,
  caption: lineSchema,
  price: lineSchema,
  /** Words that lead where the picture does. */
  action: lineSchema,
  to: linkSchema,
});
type GridPicture = z.infer<typeof itemSchema>;

const picture: ItemKind<GridPicture> = {
  type: "pictureGrid.picture",
  label: "Image",
  plural: "Images",
  least: 2,
  most: 8,
  schema: itemSchema,
  create: () => ({
    ...newPicture(null, line()),
    caption: line("A caption"),
    price: line("12.00"),
    action: line("See it"),
    to: { kind: "none" },
  }),
  texts: [
    { path: ["caption"], kind: "line", label: "Caption" },
    { path: ["price"], kind: "line", label: "Price" },
    { path: ["action"], kind: "line", label: "Action" },
    { path: ["alt"], kind: "line", label: "Alt text" },
  ],
  content: [
    ...pictureControls,
    { control: "line", path: ["caption"], label: "Caption" },
    { control: "line", path: ["price"], label: "Price" },
    { control: "line", path: ["action"], label: "Action" },
    { control: "link", path: ["to"], label: "Link to" },
  ],
  style: [
    {
      control: "colour",
      path: ["backing"],
      label: "Behind a transparent image",
      none: "Nothing",
    },
  ],
  name: (props) => wordsOf(props.alt) || wordsOf(props.caption),
  checks: (props) => pictureFindings(props, props.to),
};

type Item = ReturnType<typeof itemsOf<GridPicture>>[number];

function pictureCell(item: Item, width: number, props: PictureGrid): Markup {
  const { ctx, mark, props: own } = item;
  const height =
    props.shape === null ? undefined : Math.max(1, Math.round((width * props.shape) / 100));
  const inner = pictureHtml(own, ctx, { width, height, corner: props.corner, to: own.to });
  const side = sideOf("start", ctx.dir);
  const lines = linesOf(props, own).map(({ name, bold, leads }, i) => {
    const colour: Colour = leads ? "accent" : bold ? "ink" : "quiet";
    const look = wordAttrs(ctx.theme, {
      ...{ font: "body", size: 14, lineHeight: 1.4, colour, bold },
      more: { margin: i === 0 ? "6px 0 0 0" : "2px 0 0 0", "text-align": side },
    });
    const words = lineMarkup(own[name], "html");
    const said = leads
      ? linkedWords(words, own.to, ctx, { name: wordsOf(own[name]), colour })
      : words;
    return html`<p${ctx.text(name)}${look}>${said}</p>`;
  });
  return html`${LAYOUT_TABLE}${mark} width="100%"><tr><td align="${side}">${inner}${lines}</td></tr></table>`;
}

/** The lines under a picture: what it is, what it costs, what to do. */
function linesOf({ captions, parts }: PictureGrid, own: GridPicture) {
  const leads = !isEmptyLink(own.to);
  return [
    // Where an action says it, the caption need not.
    { name: "caption" as const, there: captions, bold: false, leads: leads && !parts.action },
    { name: "price" as const, there: parts.price, bold: true, leads: false },
    { name: "action" as const, there: parts.action, bold: true, leads },
  ].filter(({ name, there }) => there && !isBlank(own[name]));
}

export const pictureGrid: BlockKind<PictureGrid> = {
  type: "pictureGrid",
  label: "Image grid",
  group: "pictures",
  icon: "layout-grid",
  schema,
  create: () => ({
    ...standing(pad(12, 28)),
    perRow: 2,
    gap: 12,
    shape: 75,
    corner: 0,
    captions: true,
    parts: { price: false, action: false },
    onNarrow: "keep",
  }),
  holds: [picture],
  start: (newId) => Array.from({ length: 4 }, () => createItem(picture, newId)),
  texts: [],
  content: [
    { control: "switch", path: ["captions"], label: "With captions" },
    { control: "switch", path: ["parts", "price"], label: "With prices" },
    { control: "switch", path: ["parts", "action"], label: "With actions" },
  ],
  style: [
    { control: "number", path: ["perRow"], label: "In a row", min: 2, max: 4, unit: "pictures" },
    { control: "number", path: ["gap"], label: "Gap", min: 0, max: 40, unit: "px" },
    shapeControl("Cut to"),
    { control: "number", path: ["corner"], label: "Corners", min: 0, max: 60, unit: "px" },
    onNarrowControl,
  ],
  html(props, ctx) {
    const items = itemsOf(ctx, picture);
    return gridHtml(items.length, (i, width) => pictureCell(items[i]!, width, props), props, ctx);
  },
  text(props, ctx) {
    const lines = itemsOf(ctx, picture).map(({ ctx: inner, props: own }) => {
      const words = pictureText(own, inner, own.to);
      return join(
        [words, ...linesOf(props, own).map(({ name }) => lineMarkup(own[name], "text"))].filter(
          ({ segments }) => segments.length > 0,
        ),
        "\n",
      );
    });
    return join(
      lines.filter((one) => one.segments.length > 0),
      "\n\n",
    );
  },
};
