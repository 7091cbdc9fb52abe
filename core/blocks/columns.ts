/**
 * Columns, for bands and for blocks that stand things side by side. Stacking ones are inline blocks of a
 * greatest width, which go one under another by themselves where there is no room; the table-only
 * engine gets the exact widths from ghost tables in conditional comments.
 */
import { type Dir, sideOf } from "../kinds/common.ts";
import { attrs, css, html, type Markup, trusted } from "../markup/index.ts";

export interface Column {
  /** px */
  readonly width: number;
  readonly html: Markup;
  /** The attribute that names its node on the sheet. */
  readonly mark?: Markup;
  /** Of columns that stay: it keeps its width where there is less room, and those that are not rigid give way. */
  readonly rigid?: true;
  /** Of columns that stay: what stands in it is as high as they are, where it says `height:100%`. */
  readonly fills?: boolean;
}
export type Valign = "top" | "middle" | "bottom";

/** The beginning of a table that only lays things out, up to its own attributes. */
export const LAYOUT_TABLE = trusted('<table role="presentation" cellpadding="0" cellspacing="0"');
/** A table as wide as its place with one cell in it: what gives words and pictures a ground, a border, padding. */
export const oneCell = (cell: Markup, inner: Markup): Markup =>
  html`${LAYOUT_TABLE} width="100%"><tr><td${cell}>${inner}</td></tr></table>`;

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
  const side = sideOf("start", dir);
  const ghostDir = flow === "rtl" ? ' dir="rtl"' : "";
  const inner = columns.map(({ width, html: content, mark }, i) => {
    // Where everything is drawn at 120 dots to the inch, widths grow by style alone.
    const cell = `<td width="${width}" valign="${valign}"${turned ? ` dir="${dir}"` : ""} style="width:${width}px">`;
    const ghost = trusted(
      i === 0
        ? `<!--[if mso]>${TABLE} width="${total(columns)}"${ghostDir} style="width:${total(columns)}px"><tr>${cell}<![endif]-->`
        : `<!--[if mso]></td>${cell}<![endif]-->`,
    );
    const style = css({
      display: "inline-block",
      width: "100%",
      "max-width": `${width}px`,
      "vertical-align": valign,
      "font-size": "16px",
      "text-align": side,
    });
    const own = turned ? html` dir="${dir}"` : null;
    return html`${ghost}<div${mark}${own} class="cl" style="${style}">${content}</div>`;
  });
  const row = html`${inner}${trusted("<!--[if mso]></td></tr></table><![endif]-->")}`;
  // Where they stack without filling their place (no media queries), they stand in its middle.
  const own = turned ? html` dir="${flow}"` : null;
  return html`<div${own} style="font-size:0;text-align:center">${row}</div>`;
}

/** Columns that stay side by side, their widths in pixels and per cent. */
export function fixedColumns(columns: readonly Column[], valign: Valign, dir: Dir): Markup {
  const whole = total(columns);
  const held = columns.some(({ rigid }) => rigid);
  const cells = columns.map(({ width, html: content, mark, rigid, fills }) => {
    const percent = `${Math.round((width / whole) * 10_000) / 100}%`;
    const own = rigid ? `${width}px` : held ? null : percent;
    // Shares of a height need one that is said, and cells grow with what is in them.
    const height = fills ? "1px" : null;
    const style = css({ width: own, height, "vertical-align": valign });
    return html`<td${mark}${attrs({ width: held && !rigid ? null : width, valign })} style="${style}">${content}</td>`;
  });
  const own = dir === "rtl" ? html` dir="rtl"` : null;
  return html`${LAYOUT_TABLE} width="100%"${own}><tr>${cells}</tr></table>`;
}
