/** Small things one after another that wrap where there is no room: links, signs. */
import type { Align, Dir } from "../kinds/common.ts";
import { sideOf } from "../kinds/common.ts";
import { html, type Markup, trusted } from "../markup/index.ts";
import { LAYOUT_TABLE } from "./columns.ts";

const TABLE = LAYOUT_TABLE.segments.join("");

/**
 * Items in a row. The table-only engine ignores padding on anchors, so it gets cells with the gap (px)
 * between them; the rest get inline blocks that bring their own padding.
 */
export function flowRow(
  items: readonly Markup[],
  options: { gap: number; align: Align; dir: Dir; between?: Markup | null },
): Markup {
  const { gap, align, dir, between = null } = options;
  const direction = dir === "rtl" ? ' dir="rtl"' : "";
  const open = trusted(
    `<!--[if mso]>${TABLE} align="${sideOf(align, dir)}"${direction}><tr><td style="padding:0 ${gap}px"><![endif]-->`,
  );
  const middle = trusted(`<!--[if mso]></td><td style="padding:0 ${gap}px"><![endif]-->`);
  const close = trusted("<!--[if mso]></td></tr></table><![endif]-->");
  const row = items.map((item, i) => (i === 0 ? item : html`${middle}${between}${item}`));
  return html`${open}${row}${close}`;
}
