/** Bands, and the columns and blocks in them. */
import { type Backdrop, backdropOf, NO_BACKDROP } from "../blocks/backdrop.ts";
import {
  type Column,
  fixedColumns,
  LAYOUT_TABLE,
  oneCell,
  stackingColumns,
} from "../blocks/columns.ts";
import type { BandProps, ColumnProps } from "../blocks/layout.ts";
import type { DocNode } from "../document/index.ts";
import { sideOf, sidesCss } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import { split } from "../kinds/widths.ts";
import {
  attrs,
  html,
  join,
  type Markup,
  type ShownPart,
  shownWhen,
  trusted,
} from "../markup/index.ts";
import { whenBoth, whensOf } from "../text/index.ts";
import { fontStack, resolveColour } from "../theme/theme.ts";
import { type EmailContext, mark, renderBlock, seenBy, showClass } from "./block.ts";

/** The band's own width, px: the email's without the band's outer spacing. */
export function bandWidth(band: DocNode, emailWidth: number): number {
  const { outer } = band.props as unknown as BandProps;
  return Math.max(1, emailWidth - outer.left - outer.right);
}

/** Widths of a band's columns, px; they add up to the band's inner width. */
export function columnWidths(band: DocNode, emailWidth: number): number[] {
  const { padding, border, fullWidth } = band.props as unknown as BandProps;
  const shares = band.children.map((c) => (c.props as unknown as ColumnProps).share);
  const edges = fullWidth ? 0 : 2 * border.width;
  const inner = bandWidth(band, emailWidth) - padding.left - padding.right - edges;
  return split(Math.max(1, inner), shares);
}

/** The blocks of a column; `own` is the mark of a column that is no element else. */
function renderColumn(
  column: DocNode,
  width: number,
  context: EmailContext,
  own: Markup | null = null,
): Markup {
  const whens = whensOf(seenBy(column.children));
  const rows = column.children.map((block, i) =>
    shownWhen(whens[i]!, renderBlock(block, width, context).html),
  );
  const body = rows.length
    ? join(rows)
    : html`<tr><td class="em" height="1" style="font-size:1px;line-height:1px">&nbsp;</td></tr>`;
  return html`${LAYOUT_TABLE}${own} width="100%" style="width:100%">${body}</table>`;
}

function renderColumns(band: DocNode, context: EmailContext): Markup {
  const { onNarrow, valign } = band.props as unknown as BandProps;
  const whens = whensOf(seenBy(band.children));
  const widths = columnWidths(band, context.width);
  const [only, ...more] = band.children;
  // One column needs nothing beside it to hold its width: the band does.
  if (only && more.length === 0) {
    return shownWhen(whens[0]!, renderColumn(only, widths[0]!, context, mark(only)));
  }
  const columns: Column[] = band.children.map((column, i) => ({
    width: widths[i]!,
    // Its room stays, so that the columns beside it keep their places.
    html: shownWhen(whens[i]!, renderColumn(column, widths[i]!, context)),
    mark: mark(column),
  }));
  const { dir } = context;
  if (onNarrow === "keep") return fixedColumns(columns, valign, dir);
  const turned = onNarrow === "reverse" && columns.length > 1;
  return stackingColumns(turned ? columns.toReversed() : columns, { valign, dir, turned });
}

function backdrop(props: BandProps, width: number | null, context: EmailContext): Backdrop {
  const { theme, surroundings } = context;
  const picture = props.picture ? surroundings.pictures.get(props.picture) : undefined;
  if (!picture) return NO_BACKDROP;
  return backdropOf({
    src: `${surroundings.publicAddress}/pictures/${picture.file}`,
    ground: resolveColour(props.background ?? "sheet", theme),
    width,
    height: props.minHeight,
    anchor: "top",
  });
}

/** What stands in the middle of the window, `width` px wide at most. */
function centred(inner: Markup, width: number): Markup {
  const open = trusted(
    `<!--[if mso]>${LAYOUT_TABLE.segments.join("")} align="center" width="${width}"><tr><td width="${width}"><![endif]-->`,
  );
  const close = trusted("<!--[if mso]></td></tr></table><![endif]-->");
  return html`${open}<div style="max-width:${width}px;margin:0 auto">${inner}</div>${close}`;
}

const undimmed = new WeakMap<EmailContext, EmailContext>();

/**
 * What a band is rendered with. A picture behind it stays as light or dark as it is, so that the words on it
 * keep their light colours too.
 */
export function bandContext(band: DocNode, context: EmailContext): EmailContext {
  const { picture } = band.props as unknown as BandProps;
  if (!picture || !context.surroundings.pictures.has(picture)) return context;
  let made = undimmed.get(context);
  if (!made) {
    made = { ...context, theme: { ...context.theme, dark: null } };
    undimmed.set(context, made);
  }
  return made;
}

/** A band as one element, as wide as the window, with the email's width inside. */
export function renderBand(band: DocNode, outside: EmailContext): Markup {
  const context = bandContext(band, outside);
  const props = band.props as unknown as BandProps;
  const { theme, dir } = context;
  const { outer, border, minHeight, fullWidth } = props;
  const width = bandWidth(band, context.width);
  const behind = backdrop(props, fullWidth ? null : width, context);
  const start = sideOf("start", dir);
  const padding = {
    padding: sidesCss(props.padding, dir),
    height: minHeight ? `${minHeight}px` : null,
    "font-family": fontStack("body", theme),
    // No room between columns that stand side by side in one line.
    "font-size": band.children.length > 1 ? "0" : null,
    "text-align": start,
  };
  const cellAttrs = {
    align: start,
    valign: minHeight ? "middle" : null,
    height: minHeight || null,
  };
  const paint = { ground: props.background ?? "sheet", rule: border.width ? border.colour : null };
  const ground = {
    border: border.width ? `${border.width}px solid ${resolveColour(border.colour, theme)}` : null,
    "border-radius": props.corner && !fullWidth ? `${props.corner}px` : null,
    ...behind.style,
  };
  const groundCell = html`${behind.attributes}${dress(theme, paint, ground, { cell: true })}`;
  const columns = renderColumns(band, context);
  const padded = oneCell(html`${attrs(cellAttrs)}${dress(theme, {}, padding)}`, columns);

  let inner: Markup;
  if (fullWidth) {
    // The ground, its picture and border reach from edge to edge.
    const middle = html`${behind.open}${centred(padded, width)}${behind.close}`;
    inner = oneCell(html` align="center"${groundCell}`, middle);
  } else if (behind.open) {
    inner = centred(oneCell(groundCell, html`${behind.open}${padded}${behind.close}`), width);
  } else {
    const cell = dress(theme, paint, { ...ground, ...padding }, { cell: true });
    inner = centred(oneCell(html`${attrs(cellAttrs)}${cell}`, columns), width);
  }
  const spaced = outer.top + outer.bottom + outer.left + outer.right > 0;
  const table = dress(
    outside.theme,
    { ground: "ground" },
    { width: "100%", display: props.show === "narrow" ? "none" : null },
    { classes: [showClass(props.show, "table")], cell: true },
  );
  const outerCell = dress(theme, {}, { padding: spaced ? sidesCss(outer, dir) : null });
  return html`${LAYOUT_TABLE}${mark(band)} width="100%"${table}><tr><td align="center"${outerCell}>${inner}</td></tr></table>\n`;
}

/** A band as plain text: its blocks, each with whom it is for. */
export function bandTexts(band: DocNode, outside: EmailContext): ShownPart[] {
  const context = bandContext(band, outside);
  const widths = columnWidths(band, context.width);
  const columns = whensOf(seenBy(band.children));
  return band.children.flatMap((column, i) => {
    const blocks = whensOf(seenBy(column.children));
    return column.children.map((block, j) => ({
      when: whenBoth(columns[i]!, blocks[j]!),
      text: renderBlock(block, widths[i]!, context).text,
    }));
  });
}
