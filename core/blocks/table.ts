import { z } from "zod";
import { blockShape, pad, sideOf, standing } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import { createItem } from "../kinds/item.ts";
import type { BlockContext, BlockKind } from "../kinds/kind.ts";
import { split } from "../kinds/widths.ts";
import {
  attrs,
  CELL,
  docMarkup,
  docText,
  html,
  inlineMarkup,
  join,
  lineMarkup,
  type Markup,
  plain,
  RULE,
  slot,
  TO_END,
} from "../markup/index.ts";
import { isBlank, line, lineSchema, type TextJson } from "../text/index.ts";
import { colourSchema, resolveColour } from "../theme/theme.ts";
import { itemsOf } from "./link-item.ts";
import { pictureHtml, pictureText } from "./picture.ts";
import { newRow, TABLE_KINDS } from "./table-items.ts";
import { narrowClasses, PLAIN_TYPE, textLook, typeCss, typeSchema } from "./type-style.ts";

const schema = z.strictObject({
  ...blockShape,
  /** The first row names the columns. */
  header: z.boolean(),
  /** The first cell of each row names it. */
  rowHeader: z.boolean(),
  caption: lineSchema,
  parts: z.strictObject({ caption: z.boolean() }),
  headerGround: colourSchema.nullable(),
  headerColour: colourSchema,
  rules: z.enum(["none", "rows", "all"]),
  ruleColour: colourSchema,
  /** Ground of every other row. */
  stripes: colourSchema.nullable(),
  colour: colourSchema,
  /** Padding of a cell, px. */
  room: z.number().int().min(2).max(24),
  /** On narrow: as on wide, or each row as pairs of a column's name and its value. */
  onNarrow: z.enum(["stay", "pairs"]),
  type: typeSchema,
});
type Table = z.infer<typeof schema>;

const { column, row, cell } = TABLE_KINDS;

const CELL_WORDS = { font: "body", size: 15, lineHeight: 1.4 } as const;

/** The cells of each row in the order of the columns; where one is missing there is none. */
function gridOf(ctx: BlockContext) {
  const columns = itemsOf(ctx, column);
  const rows = itemsOf(ctx, row).map((one) => ({
    ...one,
    cells: columns.map((_, i) => itemsOf(one.ctx, cell)[i] ?? null),
  }));
  return { columns, rows };
}
type Grid = ReturnType<typeof gridOf>;
type GridCell = Grid["rows"][number]["cells"][number];

/** Rich text in one piece where it is one paragraph, so that a cell has no more elements than it needs. */
function wordsHtml(words: TextJson, ctx: BlockContext): Markup {
  const look = textLook(ctx, { link: "link", gap: 6 });
  const [only, ...more] = words.content ?? [];
  const mark = ctx.text("words");
  return only?.type === "paragraph" && more.length === 0
    ? html`<span${mark}>${inlineMarkup(only.content ?? [], look)}</span>`
    : html`<div${mark}>${docMarkup(words, look)}</div>`;
}

function cellInner(one: GridCell, width: number): Markup {
  if (!one) return html`&nbsp;`;
  const { ctx, props } = one;
  if (props.holds === "picture") return pictureHtml(props, ctx, { width });
  return isBlank(props.words)
    ? html`<span${ctx.text("words")}>&nbsp;</span>`
    : wordsHtml(props.words, ctx);
}

const cellText = (one: GridCell): Markup =>
  !one
    ? plain``
    : one.props.holds === "picture"
      ? pictureText(one.props, one.ctx, { kind: "none" })
      : oneLineText(one.props.words, one.ctx.node);

/** Everything after one another: a cell of plain text is one line. */
function oneLineText(words: TextJson, node: string): Markup {
  const { segments } = docText(words, node);
  return join(
    segments.map((segment) =>
      typeof segment === "string" ? plain`${segment.replace(/\s*\n\s*/g, " ")}` : slot(segment),
    ),
  );
}

/** The words of a cell without links and looks, for naming the values under it. */
function cellLabel({ props }: NonNullable<GridCell>): Markup {
  if (props.holds === "picture") return lineMarkup(props.alt, "html");
  // Each paragraph by itself: alternatives belong together within one.
  const paragraphs = (node: TextJson): TextJson[] =>
    node.type === "paragraph" ? [node] : (node.content ?? []).flatMap(paragraphs);
  return join(
    paragraphs(props.words).map((one) => lineMarkup(one, "html")),
    " ",
  );
}

/** Whether a header cell names what stands under it: what a tag says, each reader gets. */
const isName = (one: GridCell): one is NonNullable<GridCell> =>
  !!one && !isBlank(one.props.holds === "picture" ? one.props.alt : one.props.words);

function rowHtml(
  grid: Grid,
  index: number,
  props: Table,
  ctx: BlockContext,
  widths: readonly number[],
): Markup {
  const { theme, dir } = ctx;
  const one = grid.rows[index]!;
  const head = props.header && index === 0;
  const body = index - (props.header ? 1 : 0);
  const ground = head ? props.headerGround : body % 2 === 1 ? props.stripes : null;
  const rule = `1px solid ${resolveColour(props.ruleColour, theme)}`;
  const pairs = props.onNarrow === "pairs" && props.header && !head;
  const cells = grid.columns.map(({ props: { align } }, i) => {
    const side = sideOf(align, dir);
    const names = props.rowHeader && i === 0 && !head;
    const look = dress(
      theme,
      {
        ink: head ? props.headerColour : props.colour,
        ground,
        rule: props.rules === "none" ? null : props.ruleColour,
      },
      {
        // Where line heights are exact, a picture would be cut to one.
        ...(one.cells[i]?.props.holds !== "picture" &&
          typeCss(theme, { ...CELL_WORDS, bold: head || names }, props.type)),
        // A header cell is in the middle and bold by itself.
        "font-weight": head || names ? 700 : null,
        padding: `${props.room}px`,
        "text-align": side,
        "vertical-align": "top",
        "border-bottom": props.rules === "rows" ? rule : null,
        border: props.rules === "all" ? rule : null,
      },
      { cell: true, classes: narrowClasses(CELL_WORDS, props.type) },
    );
    const name = grid.rows[0]?.cells[i] ?? null;
    // Shown, and read aloud, only where rows become pairs and the header is not there.
    const label =
      pairs && isName(name)
        ? html`<span class="sl" style="display:none;font-weight:700">${cellLabel(name)}: </span>`
        : null;
    const tag = head ? html`th scope="col"` : names ? html`th scope="row"` : html`td`;
    const end = head || names ? html`th` : html`td`;
    const inner = cellInner(one.cells[i] ?? null, Math.max(1, widths[i]! - 2 * props.room));
    return html`<${tag}${one.cells[i]?.mark}${attrs({ width: widths[i]!, align: side, valign: "top" })}${look}>${label}${inner}</${end}>`;
  });
  const cls = attrs({ class: head && props.onNarrow === "pairs" ? "sx" : null });
  return html`<tr${one.mark}${cls}>${cells}</tr>`;
}

export const table: BlockKind<Table> = {
  type: "table",
  label: "Table",
  group: "words",
  icon: "table",
  schema,
  create: () => ({
    ...standing(pad(12, 28)),
    header: true,
    rowHeader: false,
    caption: line("What the table shows"),
    parts: { caption: false },
    headerGround: "tint",
    headerColour: "ink",
    rules: "rows",
    ruleColour: "line",
    stripes: null,
    colour: "ink",
    room: 8,
    onNarrow: "stay",
    type: PLAIN_TYPE,
  }),
  holds: [column, row],
  start: (newId) => [
    createItem(column, newId, { share: 40 }),
    createItem(column, newId, { share: 35 }),
    createItem(column, newId, { share: 25, align: "end" }),
    newRow(newId, ["What", "When", "Price"]),
    newRow(newId, ["A guided walk", "Saturday, 10 to 12", "12.00"]),
    newRow(newId, ["An evening", "Friday from 6", "Free"]),
  ],
  examples: [["caption"]],
  texts: [{ path: ["caption"], kind: "line", label: "Caption" }],
  content: [
    { control: "onSheet", label: "Write in the cells on the sheet: double-click one." },
    { control: "switch", path: ["header"], label: "The first row names the columns" },
    { control: "switch", path: ["rowHeader"], label: "The first column names the rows" },
    { control: "line", path: ["caption"], label: "Caption" },
    { control: "switch", path: ["parts", "caption"], label: "With the caption" },
  ],
  style: [
    {
      control: "choice",
      path: ["rules"],
      label: "Lines",
      options: [
        { value: "none", label: "None" },
        { value: "rows", label: "Between rows" },
        { value: "all", label: "Around every cell" },
      ],
    },
    {
      control: "choice",
      path: ["onNarrow"],
      label: "On narrow",
      options: [
        { value: "stay", label: "As on wide" },
        { value: "pairs", label: "Name and value" },
      ],
    },
    { control: "number", path: ["room"], label: "Cell padding", min: 2, max: 24, unit: "px" },
    { control: "colour", path: ["colour"], label: "Text colour" },
    { control: "colour", path: ["headerGround"], label: "First row background", none: "None" },
    { control: "colour", path: ["headerColour"], label: "First row text colour" },
    { control: "colour", path: ["stripes"], label: "Every other row", none: "None" },
    { control: "colour", path: ["ruleColour"], label: "Line colour" },
    { control: "type", path: ["type"], label: "Type" },
  ],
  html(props, ctx) {
    const grid = gridOf(ctx);
    const widths = split(
      ctx.width,
      grid.columns.map(({ props: own }) => own.share),
    );
    const rows = grid.rows.map((_, i) => rowHtml(grid, i, props, ctx, widths));
    const caption = dress(
      ctx.theme,
      { ink: "quiet" },
      {
        ...typeCss(ctx.theme, { font: "body", size: 14, lineHeight: 1.45 }),
        padding: "0 0 8px 0",
        "caption-side": "top",
        "text-align": sideOf("start", ctx.dir),
      },
    );
    const named =
      props.parts.caption && !isBlank(props.caption)
        ? html`<caption${caption}><span${ctx.text("caption")}>${lineMarkup(props.caption, "html")}</span></caption>`
        : null;
    const stacked = props.onNarrow === "pairs" ? html` class="st"` : null;
    // A table of data, not of layout: it keeps its role, and its header cells are read with the rows.
    return html`<table border="0" cellpadding="0" cellspacing="0" width="100%"${stacked} style="width:100%;border-collapse:collapse">${named}${rows}</table>`;
  },
  text(props, ctx) {
    const { rows, columns } = gridOf(ctx);
    const lines = rows.map(({ cells }) =>
      join(
        cells.map(
          (one, i) => plain`${columns[i]!.props.align === "end" && TO_END}${cellText(one)}`,
        ),
        CELL,
      ),
    );
    if (columns.length > 1 && props.header && lines.length > 1) {
      lines.splice(1, 0, plain`${RULE.single}`);
    }
    const named = props.parts.caption && !isBlank(props.caption);
    return plain`${named && plain`${lineMarkup(props.caption, "text")}\n\n`}${join(lines, "\n")}`;
  },
};
