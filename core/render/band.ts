/** Bands, and the columns and blocks in them. */
import { fixedColumns, stackingColumns } from "../blocks/columns.ts";
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

/** A band as one element, as wide as the window, with the email's width inside. */
export function renderBand(band: DocNode, context: EmailContext): Markup {
  const props = band.props as unknown as BandProps;
  const { theme, width } = context;
  const ground = props.background ? resolveColour(props.background, theme) : theme.colours.sheet;
  const outside = props.fullWidth ? ground : theme.colours.ground;
  const widths = columnWidths(band, width);
  const parts = band.children.map((column, i) => ({
    width: widths[i]!,
    html: renderColumn(column, widths[i]!, context),
    mark: mark(column),
  }));
  const columns =
    props.onNarrow === "keep"
      ? fixedColumns(parts, props.valign)
      : stackingColumns(parts, props.valign);
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
