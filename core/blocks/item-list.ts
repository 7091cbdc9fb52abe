/**
 * Blocks that show items of sources. What such a block holds is the design of one item: ordinary blocks in which the
 * item's fields stand as merge tags. It is rendered once for each item; where each reader has items of their own, once
 * for each that anybody can have.
 */
import { z } from "zod";
import type { DocNode, ItemList } from "../document/index.ts";
import {
  choiceSchema,
  type LiveItem,
  newChoice,
  refOfItem,
  refsOfChoice,
  said,
} from "../items/index.ts";
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
import {
  type BlockContext,
  type BlockKind,
  type Control,
  type Design,
  liveRef,
} from "../kinds/kind.ts";
import { LIMITS } from "../limits.ts";
import {
  type ChosenCell,
  html,
  join,
  joinShown,
  lineMarkup,
  Markup as Made,
  type Markup,
  onSheetOnly,
  slot,
} from "../markup/index.ts";
import { isBlank, type Link, line, lineSchema, linkSchema } from "../text/index.ts";
import { colourSchema, inkOn, resolveColour } from "../theme/theme.ts";
import { LAYOUT_TABLE, oneCell } from "./columns.ts";
import {
  gridHtml,
  gridWidths,
  onNarrowControl,
  onNarrowSchema,
  shapeControl,
  shapeSchema,
} from "./grid.ts";
import { wordAttrs } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  choice: choiceSchema,
  perRow: z.number().int().min(1).max(4),
  gap: z.number().int().min(0).max(60),
  onNarrow: onNarrowSchema,
  /** The first one has a row of its own. */
  lead: z.boolean(),
  /** All of an item leads where the item is. */
  whole: z.boolean(),
  shape: shapeSchema,
  ground: colourSchema.nullable(),
  edge: borderSchema,
  corner: cornerSchema,
  inner: paddingSchema,
  /** What stands there where there is no item: words, nothing, or not even the band around it. */
  empty: z.enum(["words", "nothing", "band"]),
  emptyWords: lineSchema,
});
export type ItemListProps = z.infer<typeof schema>;

const cellWidths = (props: ItemListProps, width: number) => {
  const { widths } = gridWidths(props, width);
  const frame = props.inner.left + props.inner.right + 2 * props.edge.width;
  const inside = (outer: number) => Math.max(1, outer - frame);
  return {
    later: inside(Math.min(...widths)),
    first: inside(props.lead ? width : Math.min(...widths)),
  };
};

const links = new WeakMap<LiveItem, Link>();
/** Where an item is; the same object for the same item, so that what was made with it holds. */
function linkOf(item: LiveItem): Link {
  let to = links.get(item);
  if (!to) {
    const made = linkSchema.safeParse({ kind: "web", address: line(said(item, "link")) });
    to = made.success ? made.data : { kind: "none" };
    links.set(item, to);
  }
  return to;
}

/** The ground, border and padding around one item. */
function framed(inner: Markup, props: ItemListProps, ctx: BlockContext): Markup {
  const { ground, edge, corner } = props;
  const { theme, dir } = ctx;
  const look = dress(
    theme,
    { ink: ground && inkOn(ground, theme), ground, rule: edge.width ? edge.colour : null },
    {
      padding: sidesCss(props.inner, dir),
      border: edge.width ? `${edge.width}px solid ${resolveColour(edge.colour, theme)}` : null,
      "border-radius": corner ? `${corner}px` : null,
      "text-align": sideOf("start", dir),
    },
    { cell: true },
  );
  const held = html`${LAYOUT_TABLE} width="100%">${inner}</table>`;
  return oneCell(html` align="${sideOf("start", dir)}"${look}`, held);
}

function cellOf(
  item: LiveItem,
  props: ItemListProps,
  ctx: BlockContext,
  first: boolean,
  marked: boolean,
) {
  const widths = cellWidths(props, ctx.width);
  const how = { first: marked, to: props.whole ? linkOf(item) : null, shape: props.shape };
  const { html: blocks, text } = ctx.design(item, first ? widths.first : widths.later, how);
  return { html: framed(blocks, props, ctx), text: joinShown(text, "\n") };
}

/** Cells in their rows, the first in one of its own where it is set apart. */
function rows(cells: readonly Markup[], props: ItemListProps, ctx: BlockContext): Markup {
  if (cells.length === 0) return emptyHtml(props, ctx);
  const [first, ...later] = cells as [Markup, ...Markup[]];
  if (!props.lead) return gridHtml(cells.length, (i) => cells[i]!, props, ctx);
  if (later.length === 0) return first;
  const above = dress(ctx.theme, {}, { padding: props.gap ? `${props.gap}px 0 0 0` : null });
  return html`${first}${oneCell(
    above,
    gridHtml(later.length, (i) => later[i]!, props, ctx),
  )}`;
}

const saysEmpty = ({ empty, emptyWords }: ItemListProps) =>
  empty === "words" && !isBlank(emptyWords);

function emptyHtml(props: ItemListProps, ctx: BlockContext): Markup {
  if (!saysEmpty(props)) return Made.empty;
  const look = wordAttrs(ctx.theme, { font: "body", size: 16, lineHeight: 1.5, colour: "quiet" });
  return html`<div${ctx.text("emptyWords")}${look}>${lineMarkup(props.emptyWords, "html")}</div>`;
}
const emptyText = (props: ItemListProps): Markup =>
  saysEmpty(props) ? lineMarkup(props.emptyWords, "text") : Made.empty;

/** What each reader has of their own: its cells are written for all that anybody can have. */
function chosen(
  ctx: BlockContext,
  { items, perReader }: NonNullable<ReturnType<BlockContext["itemsHere"]>>,
  props: ItemListProps,
  write: (item: LiveItem, first: boolean) => Markup,
  frame: (cells: readonly Markup[]) => Markup,
): Markup {
  const cells = new Map(
    items.map((item): [string, ChosenCell] => {
      const later = write(item, false);
      return [refOfItem(item), { later, first: props.lead ? write(item, true) : later }];
    }),
  );
  const asks = refsOfChoice(props.choice);
  return slot({
    ...{ slot: "chosen", ref: liveRef(ctx.node), cells, asks, frame },
    standard: perReader?.standard ?? [],
    most: props.choice.count,
  });
}

const common: readonly Control[] = [
  { control: "switch", path: ["whole"], label: "All of an item is a link to it" },
];
const several: readonly Control[] = [
  { control: "switch", path: ["lead"], label: "The first across the whole width" },
  {
    control: "choice",
    path: ["empty"],
    label: "Where there is none",
    options: [
      { value: "words", label: "Say so" },
      { value: "nothing", label: "Show nothing" },
      { value: "band", label: "Hide the band" },
    ],
  },
  { control: "line", path: ["emptyWords"], label: "Text where there is none" },
];
const style: readonly Control[] = [
  shapeControl("Images cut to"),
  { control: "colour", path: ["ground"], label: "Background of an item", none: "None" },
  { control: "border", path: ["edge"], label: "Border of an item" },
  { control: "number", path: ["corner"], label: "Corners", min: 0, max: LIMITS.corner, unit: "px" },
];
const rowStyle: readonly Control[] = [
  { control: "number", path: ["perRow"], label: "In a row", min: 1, max: 4, unit: "items" },
  { control: "number", path: ["gap"], label: "Gap", min: 0, max: 60, unit: "px" },
  onNarrowControl,
];

export interface ListOf {
  readonly type: ItemList;
  readonly label: string;
  readonly icon: string;
  /** The kind of its items. */
  readonly items: string;
  /** It shows a single one, picked by hand. */
  readonly one?: true;
  readonly choice: Partial<ItemListProps["choice"]>;
  readonly emptyWords: string;
  readonly designs: readonly [Design<ItemListProps>, ...Design<ItemListProps>[]];
}

/** A block that shows items of a kind. */
export function itemList(of: ListOf): BlockKind<ItemListProps> {
  const [first] = of.designs;
  return {
    type: of.type,
    label: of.label,
    group: "live",
    icon: of.icon,
    schema,
    create: () => ({
      ...standing(pad(12, 28)),
      choice: newChoice({ ...of.choice, ...(of.one && { picked: [], count: 1 }) }),
      perRow: 1,
      gap: 16,
      onNarrow: "stack",
      lead: false,
      whole: false,
      shape: null,
      ground: null,
      edge: { width: 0, colour: "line" },
      corner: 0,
      inner: pad(0, 0),
      empty: of.one ? "nothing" : "words",
      emptyWords: line(of.emptyWords),
      ...first.props,
    }),
    start: (newId) => first.blocks(newId),
    items: of.items,
    designs: of.designs,
    inner: (props, width) => cellWidths(props, width).first,
    texts: [{ path: ["emptyWords"], kind: "line", label: "Text where there is none" }],
    content: [
      {
        control: "items",
        path: ["choice"],
        label: "Items",
        kind: of.items,
        ...(of.one && { one: true }),
      },
      ...common,
      ...(of.one ? [] : several),
    ],
    style: [...(of.one ? [] : rowStyle), ...style],
    html(props, ctx) {
      const list = ctx.itemsHere();
      if (list?.perReader) {
        return chosen(
          ctx,
          list,
          props,
          (item, first) => cellOf(item, props, ctx, first, false).html,
          (cells) => rows(cells, props, ctx),
        );
      }
      const items = list?.items ?? [];
      if (items.length > 0) {
        const cells = items.map((item, i) => cellOf(item, props, ctx, i === 0, i === 0).html);
        return rows(cells, props, ctx);
      }
      const width = cellWidths(props, ctx.width).first;
      const design = join(ctx.children.map((child) => ctx.block(child, width).html));
      // Where there is no item yet its design can be made all the same.
      return html`${onSheetOnly(framed(design, props, ctx))}${emptyHtml(props, ctx)}`;
    },
    text(props, ctx) {
      const list = ctx.itemsHere();
      const whole = (cells: readonly Markup[]) =>
        cells.length > 0 ? join(cells, "\n\n") : emptyText(props);
      const write = (item: LiveItem, first: boolean) => cellOf(item, props, ctx, first, false).text;
      if (list?.perReader) return chosen(ctx, list, props, write, whole);
      return whole((list?.items ?? []).map((item, i) => write(item, i === 0)));
    },
  };
}

/** Whether a block is left out with the band around it, because there is nothing in it. */
export const hidesBand = (node: DocNode, items: readonly LiveItem[] | undefined): boolean =>
  items !== undefined && items.length === 0 && node.props.empty === "band";
