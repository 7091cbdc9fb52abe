/** Cells in rows of equal width, one after another: pictures, products, articles. */
import { z } from "zod";
import { pad, sidesCss } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import type { BlockContext, Control } from "../kinds/kind.ts";
import { split } from "../kinds/widths.ts";
import { html, type Markup } from "../markup/index.ts";
import { type Column, fixedColumns, LAYOUT_TABLE, oneCell, stackingColumns } from "./columns.ts";

/** Height over width of the pictures in a grid, per cent: they are cut to it; null leaves each as it is. */
export const shapeSchema = z
  .union([z.literal(100), z.literal(75), z.literal(67), z.literal(56), z.literal(133)])
  .nullable();

export const shapeControl = (label: string): Control => ({
  control: "choice",
  path: ["shape"],
  label,
  options: [
    { value: null, label: "As they are" },
    { value: 100, label: "Square" },
    { value: 75, label: "4 to 3" },
    { value: 67, label: "3 to 2" },
    { value: 56, label: "16 to 9" },
    { value: 133, label: "3 to 4, upright" },
  ],
});

export const onNarrowSchema = z.enum(["keep", "stack"]);

export const onNarrowControl: Control = {
  control: "choice",
  path: ["onNarrow"],
  label: "On narrow",
  options: [
    { value: "keep", label: "In rows" },
    { value: "stack", label: "One under another" },
  ],
};

export interface Grid {
  readonly perRow: number;
  /** px between two cells, across and down. */
  readonly gap: number;
  readonly onNarrow: z.infer<typeof onNarrowSchema>;
}

/** How many fit in a row of this width, px, with what room between them, and how wide each is. */
export function gridWidths({ perRow, gap }: Grid, width: number) {
  const cells = Math.max(1, Math.min(perRow, width));
  // In a place too narrow for them the gaps give way first.
  const room = Math.floor((width - cells) / Math.max(1, cells - 1));
  const between = Math.min(gap, room);
  return { gap: between, widths: split(width - between * (cells - 1), Array(cells).fill(1)) };
}

/** One row; what is missing at its end stays empty. */
function row(cells: readonly (Markup | null)[], grid: Grid, ctx: BlockContext): Markup {
  const { gap, widths } = gridWidths(grid, ctx.width);
  const columns: Column[] = [];
  for (const [i, width] of widths.entries()) {
    const cell = cells[i] ?? null;
    if (grid.onNarrow === "stack") {
      const last = i === widths.length - 1;
      const after = sidesCss({ ...pad(0, 0), right: gap }, ctx.dir);
      const look = dress(ctx.theme, {}, { padding: last ? "0" : after }, { classes: ["pw"] });
      if (cell) columns.push({ width: last ? width : width + gap, html: oneCell(look, cell) });
    } else {
      if (i > 0 && gap) columns.push({ width: gap, html: html`&nbsp;` });
      columns.push({ width, html: cell ?? html`&nbsp;` });
    }
  }
  return grid.onNarrow === "stack"
    ? stackingColumns(columns, { valign: "top", dir: ctx.dir })
    : fixedColumns(columns, "top", ctx.dir);
}

/** All rows, the gap between them; `cell` writes the cell of a number at its width, px. */
export function gridHtml(
  count: number,
  cell: (index: number, width: number) => Markup,
  grid: Grid,
  ctx: BlockContext,
): Markup {
  const { widths } = gridWidths(grid, ctx.width);
  const rows: Markup[] = [];
  for (let from = 0; from < count; from += widths.length) {
    const cells = widths.flatMap((width, i) => (from + i < count ? [cell(from + i, width)] : []));
    const padding = from > 0 && grid.gap ? `${grid.gap}px 0 0 0` : null;
    rows.push(html`<tr><td${dress(ctx.theme, {}, { padding })}>${row(cells, grid, ctx)}</td></tr>`);
  }
  return html`${LAYOUT_TABLE} width="100%">${rows}</table>`;
}
