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
import { type Dir, sideOf, sidesCss, someSides } from "../kinds/common.ts";
import { dress, type Paint } from "../kinds/dress.ts";
import { split } from "../kinds/widths.ts";
import {
  attrs,
  html,
  join,
  type Markup,
  onSheetOnly,
  type Properties,
  type ShownPart,
  shownWhen,
  slot,
  trusted,
} from "../markup/index.ts";
import { pictureAddress } from "../picture-id.ts";
import { whenBoth, whensOf } from "../text/index.ts";
import { type Colour, inkOn, resolveColour } from "../theme/theme.ts";
import { type EmailContext, mark, renderBlock, seenBy, showClass, variant } from "./block.ts";

/** What stands for the variants of a context that bands ask for. */
const UNDIMMED = {};
const FILLS = {};

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

/** What a band's blocks are rendered with, where its columns stay side by side. */
export function besideContext(band: DocNode, context: EmailContext): EmailContext {
  const { onNarrow, even } = band.props as unknown as BandProps;
  return even && onNarrow === "keep" && band.children.length > 1
    ? variant(context, FILLS, { fills: true })
    : context;
}

/** The rows of a column's blocks. */
function columnRows(column: DocNode, width: number, context: EmailContext): Markup {
  const whens = whensOf(seenBy(column.children));
  const rows = column.children.map((block, i) =>
    shownWhen(whens[i]!, renderBlock(block, width, context).html),
  );
  return rows.length
    ? join(rows)
    : html`<tr><td class="em" height="1" style="font-size:1px;line-height:1px">&nbsp;</td></tr>`;
}

/** The blocks of a column; `own` is the mark of a column that is no element else. */
function renderColumn(
  column: DocNode,
  width: number,
  context: EmailContext,
  own: Markup | null = null,
): Markup {
  const fills = context.fills ? html` height="100%"` : null;
  return html`${LAYOUT_TABLE}${own} width="100%"${fills}>${columnRows(column, width, context)}</table>`;
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
  const own = besideContext(band, context);
  const columns: Column[] = band.children.map((column, i) => ({
    width: widths[i]!,
    // Its room stays, so that the columns beside it keep their places.
    html: shownWhen(whens[i]!, renderColumn(column, widths[i]!, own)),
    mark: mark(column),
    fills: own.fills,
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
    // As it is: nobody knows how high what stands in a band gets, on narrow windows above all.
    src: pictureAddress(surroundings.publicAddress, picture),
    ground: resolveColour(props.background ?? "sheet", theme),
    width,
    height: props.minHeight,
    anchor: "top",
    focus: props.focus,
  });
}

const ghosts = new Map<number, { readonly open: string; readonly close: string }>();
const newGhost = (width: number) => ({
  open: `<!--[if mso]>${LAYOUT_TABLE.segments.join("")} align="center" width="${width}" style="width:${width}px"><tr><td width="${width}" style="width:${width}px"><![endif]-->`,
  close: "<!--[if mso]></td></tr></table><![endif]-->",
});

/** A table of the very width, in the middle, for the table-only engine, which knows no greatest width. */
function ghost(width: number) {
  let known = ghosts.get(width);
  if (!known) {
    known = newGhost(width);
    ghosts.set(width, known);
  }
  return known;
}

/** A band's table in its ghost. */
function inGhost(table: Markup, width: number): Markup {
  const { open, close } = ghost(width);
  return html`${slot({ slot: "beside", html: open })}${table}${slot({ slot: "beside", html: close })}`;
}

/** What stands in the middle of the window, `width` px wide at most. */
function centred(inner: Markup, width: number): Markup {
  const { open, close } = ghost(width);
  return html`${trusted(open)}<div style="max-width:${width}px;margin:0 auto">${inner}</div>${trusted(close)}`;
}

/**
 * What a band is rendered with. A picture behind it stays as light or dark as it is, so that the words on it
 * keep their light colours too.
 */
export function bandContext(band: DocNode, context: EmailContext): EmailContext {
  const { picture } = band.props as unknown as BandProps;
  if (!picture || !context.surroundings.pictures.has(picture)) return context;
  return variant(context, UNDIMMED, { theme: { ...context.theme, dark: null } });
}

/** Whether the table of a band's only column can be the band's own: nothing stands between the two. */
function isPlain(band: DocNode, dir: Dir): boolean {
  const { padding, border, corner, minHeight } = band.props as unknown as BandProps;
  const room = padding.top + padding.right + padding.bottom + padding.left;
  return (
    band.children.length === 1 &&
    whensOf(seenBy(band.children))[0] === null &&
    dir === "ltr" &&
    room + border.width + corner + minHeight === 0
  );
}

/** What a band shows of itself. */
interface BandLook {
  /** Attributes of the cell that words stand in. */
  readonly cell: Record<string, string | number | null>;
  readonly paint: Paint;
  /** The properties of its ground, and its border. */
  readonly ground: Properties;
  readonly ink: Colour;
  /** The properties of what stands in it: its room, and where its words break. */
  readonly words: Properties;
  readonly behind: Backdrop;
}

function lookOf(props: BandProps, width: number, context: EmailContext): BandLook {
  const { theme, dir } = context;
  const { border, minHeight, fullWidth } = props;
  const background = props.background ?? "sheet";
  const behind = backdrop(props, fullWidth ? null : width, context);
  return {
    cell: {
      align: sideOf("start", dir),
      valign: minHeight ? "middle" : null,
      height: minHeight || null,
      // Some programs throw away what stands around the bands.
      dir: dir === "rtl" ? dir : null,
    },
    paint: { ground: background, rule: border.width ? border.colour : null },
    ground: {
      border: border.width
        ? `${border.width}px solid ${resolveColour(border.colour, theme)}`
        : null,
      "border-radius": props.corner && !fullWidth ? `${props.corner}px` : null,
      ...behind.style,
    },
    ink: inkOn(background, theme),
    words: {
      // Where there is none, the table has said so.
      padding: someSides(props.padding, dir),
      height: minHeight ? `${minHeight}px` : null,
      // In a table a word that does not break makes the page as wide as it is.
      "word-break": "break-word",
    },
    behind,
  };
}

/** What stands in a band whose ground is another's: a table with its room. */
const padded = (look: BandLook, columns: Markup, { theme }: EmailContext): Markup =>
  oneCell(html`${attrs(look.cell)}${dress(theme, { ink: look.ink }, look.words)}`, columns);

/** A band's ground with what stands in it, as one cell. */
function groundCell(look: BandLook, columns: Markup, context: EmailContext): Markup {
  const { behind, paint, ground, ink, words } = look;
  const { theme } = context;
  if (behind.open) {
    const cell = html`${behind.attributes}${dress(theme, paint, ground, { cell: true })}`;
    return html`<td${cell}>${behind.open}${padded(look, columns, context)}${behind.close}</td>`;
  }
  const cell = dress(theme, { ink, ...paint }, { ...ground, ...words }, { cell: true });
  return html`<td${attrs(look.cell)}${cell}>${columns}</td>`;
}

/** A band as one element, a ghost table aside: as wide as the email, or as the window where something is around it. */
export function renderBand(band: DocNode, outside: EmailContext): Markup {
  const context = bandContext(band, outside);
  const props = band.props as unknown as BandProps;
  const { theme, dir } = context;
  const { outer, fullWidth } = props;
  const width = bandWidth(band, context.width);
  const look = lookOf(props, width, context);
  const classes = [showClass(props.show, "table")];
  const display = props.show === "narrow" ? "none" : null;
  const spaced = outer.top + outer.bottom + outer.left + outer.right > 0;
  if (!fullWidth && !spaced) {
    const own = { "max-width": `${width}px`, display };
    const open = (dressed: Markup) =>
      html`${LAYOUT_TABLE}${mark(band)}${attrs({ dir: look.cell.dir })} align="center" width="100%"${dressed}>`;
    if (look.behind.open || !isPlain(band, dir)) {
      const cell = groundCell(look, renderColumns(band, context), context);
      const table = open(dress(theme, {}, own, { classes }));
      return inGhost(html`${table}<tr>${cell}</tr></table>`, width);
    }
    const all = { ...look.ground, ...look.words, ...own };
    const table = open(
      dress(theme, { ink: look.ink, ...look.paint }, all, { classes, cell: true }),
    );
    // Only sheets need an element for the column.
    const [column] = band.children as [DocNode];
    const rows = columnRows(column, columnWidths(band, context.width)[0]!, context);
    const body = html`${onSheetOnly(html`<tbody${mark(column)}>`)}${rows}${onSheetOnly(html`</tbody>`)}`;
    return inGhost(html`${table}${body}</table>`, width);
  }
  const { behind, paint, ground } = look;
  const columns = renderColumns(band, context);
  let inner: Markup;
  if (fullWidth) {
    // The ground, its picture and border reach from edge to edge.
    const cell = html`${behind.attributes}${dress(theme, paint, ground, { cell: true })}`;
    const middle = centred(padded(look, columns, context), width);
    inner = oneCell(html` align="center"${cell}`, html`${behind.open}${middle}${behind.close}`);
  } else {
    const cell = groundCell(look, columns, context);
    inner = centred(html`${LAYOUT_TABLE} width="100%"><tr>${cell}</tr></table>`, width);
  }
  // Around it is the ground of the email's article.
  const table = dress(outside.theme, {}, { display }, { classes });
  const outerCell = dress(theme, {}, { padding: spaced ? sidesCss(outer, dir) : null });
  return html`${LAYOUT_TABLE}${mark(band)}${attrs({ dir: look.cell.dir })} width="100%"${table}><tr><td align="center"${outerCell}>${inner}</td></tr></table>`;
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
