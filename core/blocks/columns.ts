/**
 * Columns, for bands and for blocks that stand things side by side. Stacking ones are inline blocks of a
 * greatest width, which go one under another by themselves where there is no room; the table-only
 * engine gets the exact widths from ghost tables in conditional comments.
 */
import type { Dir } from "../kinds/common.ts";
import { attrs, css, html, type Markup, trusted } from "../markup/index.ts";

export interface Column {
  /** px */
  readonly width: number;
  readonly html: Markup;
  /** The attribute that names its node on the sheet. */
  readonly mark?: Markup;
}
export type Valign = "top" | "middle" | "bottom";

/** The beginning of a table that only lays things out, up to its own attributes. */
export const LAYOUT_TABLE = trusted(
  '<table role="presentation" border="0" cellpadding="0" cellspacing="0"',
);
/** A table as wide as its place with one cell in it: what gives words and pictures a ground, a border, padding. */
export const oneCell = (cell: Markup, inner: Markup): Markup =>
  html`${LAYOUT_TABLE} width="100%" style="width:100%"><tr><td${cell}>${inner}</td></tr></table>`;

const TABLE = LAYOUT_TABLE.segments.join("");
const total = (columns: readonly Column[]) => columns.reduce((sum, { width }) => sum + width, 0);
const opposite = (dir: Dir): Dir => (dir === "ltr" ? "rtl" : "ltr");

/**
 * Columns that stack on narrow, in the order given. `turned` shows them in the opposite order on wide, so
 * that what stands last there can come first on narrow.
 */
export function stackingColumns(
  columns: readonly Column[],
  options: { valign: Valign; dir: Dir; turned?: boolean },
): Markup {
  const { valign, dir, turned = false } = options;
  const flow = turned ? opposite(dir) : dir;
  const ghostDir = flow === "rtl" ? ' dir="rtl"' : "";
  const inner = columns.map(({ width, html: content, mark }, i) => {
    const cell = `<td width="${width}" valign="${valign}"${turned ? ` dir="${dir}"` : ""}>`;
    const ghost = trusted(
      i === 0
        ? `<!--[if mso]>${TABLE} width="${total(columns)}"${ghostDir}><tr>${cell}<![endif]-->`
        : `<!--[if mso]></td>${cell}<![endif]-->`,
    );
    const style = css({
      display: "inline-block",
      width: "100%",
      "max-width": `${width}px`,
      "vertical-align": valign,
      "font-size": "16px",
    });
    const own = turned ? html` dir="${dir}"` : null;
    return html`${ghost}<div${mark}${own} class="cl" style="${style}">${content}</div>`;
  });
  const row = html`${inner}${trusted("<!--[if mso]></td></tr></table><![endif]-->")}`;
  return turned ? html`<div dir="${flow}" style="font-size:0">${row}</div>` : row;
}

/** Columns that stay side by side, their widths in pixels and per cent. */
export function fixedColumns(columns: readonly Column[], valign: Valign, dir: Dir): Markup {
  const whole = total(columns);
  const cells = columns.map(({ width, html: content, mark }) => {
    const percent = `${Math.round((width / whole) * 10_000) / 100}%`;
    const style = css({ width: percent, "vertical-align": valign, padding: "0" });
    return html`<td${mark}${attrs({ width, valign })} style="${style}">${content}</td>`;
  });
  const own = dir === "rtl" ? html` dir="rtl"` : null;
  return html`${LAYOUT_TABLE} width="100%"${own} style="width:100%"><tr>${cells}</tr></table>`;
}
