/**
 * Bands and columns. Columns are inline blocks of a greatest width, which stack by themselves where
 * there is no room; the table-only engine gets the exact widths from ghost tables in conditional
 * comments (shared technique of hand-coders).
 */
import type { BandProps, ColumnProps } from "../blocks/layout.ts";
import type { DocNode } from "../document/index.ts";
import { attrs, css, html, join, type Markup, trusted } from "../text/index.ts";
import { resolveColour } from "../theme/theme.ts";
import { type EmailContext, mark, renderBlock, showClass } from "./block.ts";
import { split } from "./widths.ts";

const TABLE = trusted('<table role="presentation" border="0" cellpadding="0" cellspacing="0"');

/** Widths of a band's columns, px; they add up to the band's inner width. */
export function columnWidths(band: DocNode, emailWidth: number): number[] {
  const { padding } = band.props as unknown as BandProps;
  const shares = band.children.map((c) => (c.props as unknown as ColumnProps).share);
  return split(Math.max(1, emailWidth - padding.left - padding.right), shares);
}

function renderColumn(column: DocNode, width: number, context: EmailContext): Markup {
  const rows = column.children.map((block) => renderBlock(block, width, context).html);
  const body = rows.length
    ? join(rows)
    : html`<tr><td height="1" style="font-size:1px;line-height:1px">&nbsp;</td></tr>`;
  return html`${TABLE} width="100%" style="width:100%">${body}</table>`;
}

function stacking(band: DocNode, widths: readonly number[], context: EmailContext): Markup {
  const { valign } = band.props as unknown as BandProps;
  const inner = widths.reduce((a, b) => a + b, 0);
  const columns = band.children.map((column, i) => {
    const width = widths[i]!;
    const style = css({
      display: "inline-block",
      width: "100%",
      "max-width": `${width}px`,
      "vertical-align": valign,
      "font-size": "16px",
    });
    const ghost = trusted(
      i === 0
        ? `<!--[if mso]><table role="presentation" width="${inner}" border="0" cellpadding="0" cellspacing="0"><tr><td width="${width}" valign="${valign}"><![endif]-->`
        : `<!--[if mso]></td><td width="${width}" valign="${valign}"><![endif]-->`,
    );
    return html`${ghost}<div${mark(column)} class="cl" style="${style}">${renderColumn(column, width, context)}</div>`;
  });
  return html`${columns}${trusted("<!--[if mso]></td></tr></table><![endif]-->")}`;
}

function sideBySide(band: DocNode, widths: readonly number[], context: EmailContext): Markup {
  const { valign } = band.props as unknown as BandProps;
  const inner = widths.reduce((a, b) => a + b, 0);
  const cells = band.children.map((column, i) => {
    const width = widths[i]!;
    const percent = `${Math.round((width / inner) * 10000) / 100}%`;
    const style = css({ width: percent, "vertical-align": valign, padding: "0" });
    return html`<td${mark(column)}${attrs({ width, valign })} style="${style}">${renderColumn(column, width, context)}</td>`;
  });
  return html`${TABLE} width="100%" style="width:100%"><tr>${cells}</tr></table>`;
}

/** A band as one element, as wide as the window, with the email's width inside. */
export function renderBand(band: DocNode, context: EmailContext): Markup {
  const props = band.props as unknown as BandProps;
  const { theme, width } = context;
  const ground = props.background ? resolveColour(props.background, theme) : theme.colours.sheet;
  const outside = props.fullWidth ? ground : theme.colours.ground;
  const widths = columnWidths(band, width);
  const columns =
    props.onNarrow === "keep" ? sideBySide(band, widths, context) : stacking(band, widths, context);
  const { top, right, bottom, left } = props.padding;
  const cell = css({
    padding: `${top}px ${right}px ${bottom}px ${left}px`,
    "background-color": ground,
    "font-size": "0",
    "text-align": "left",
  });
  const outer = attrs({
    class: showClass(props.show, "table"),
    bgcolor: outside,
    style: css({
      width: "100%",
      display: props.show === "narrow" ? "none" : null,
      "mso-hide": props.show === "narrow" ? "all" : null,
      "background-color": outside,
    }),
  });
  const open = trusted(
    `<!--[if mso]><table role="presentation" align="center" width="${width}" border="0" cellpadding="0" cellspacing="0"><tr><td width="${width}"><![endif]-->`,
  );
  const close = trusted("<!--[if mso]></td></tr></table><![endif]-->");
  return html`${TABLE}${mark(band)} width="100%"${outer}><tr><td align="center">${open}<div style="max-width:${width}px;margin:0 auto">${TABLE} width="100%" bgcolor="${ground}" style="width:100%"><tr><td align="left" style="${cell}">${columns}</td></tr></table></div>${close}</td></tr></table>\n`;
}

/** A band as plain text: its blocks apart by a blank line. */
export function bandText(band: DocNode, context: EmailContext): Markup {
  const widths = columnWidths(band, context.width);
  const blocks = band.children.flatMap((column, i) =>
    column.children.map((block) => renderBlock(block, widths[i]!, context).text),
  );
  return join(
    blocks.filter((b) => b.segments.length > 0),
    "\n\n",
  );
}
