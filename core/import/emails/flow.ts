/** A foreign email from its head to its foot: layout tables, divisions and what else only arranges are gone through. */
import { besideFrom, COLUMNS, iconOf, isSeen } from "./beside.ts";
import {
  cornerOf,
  dressed,
  emptyIs,
  FOREIGN,
  holdsMore,
  imageIs,
  inkWithin,
  isBlock,
  isButton,
  onlyLink,
  sizeOf,
} from "./leaves.ts";
import {
  groundOf,
  hexIn,
  isHidden,
  type Look,
  lookIn,
  paddingOf,
  pxIn,
  START,
  widthOf,
} from "./look.ts";
import { type ForeignColumn, type ForeignPiece, type Notes, newNotes } from "./pieces.ts";
import { aloneLink, headingIn, joined, paragraphsOf } from "./runs.ts";
import { cellsOf, isData, rowsOf } from "./tables.ts";
import { type El, type Inner, isEl, letters, some, visibleText } from "./tree.ts";

export interface Options {
  /** A link alone on its line is a button: in drafts that somebody wrote. */
  readonly aloneIsButton: boolean;
}

class Reader {
  readonly notes: Notes = newNotes();
  constructor(private readonly options: Options) {}

  /** The pieces of what stands in an element, one under the other. */
  inside(el: El, look: Look, href: string | null = null, cell = 0): ForeignPiece[] {
    return padded(this.flow(el.children, look, href), el, cell);
  }

  flow(inner: readonly Inner[], look: Look, href: string | null): ForeignPiece[] {
    const pieces: ForeignPiece[] = [];
    let run: Inner[] = [];
    const end = () => {
      pieces.push(...this.words(run, look, href));
      run = [];
    };
    for (let i = 0; i < inner.length; i++) {
      const one = inner[i]!;
      if (!isEl(one)) {
        run.push(one);
        continue;
      }
      if (isHidden(one)) {
        if (pieces.length === 0) this.notes.preview ||= visibleText(one);
        continue;
      }
      const group = besideFrom(inner, i, look);
      if (group) {
        end();
        const { parts, last } = group;
        pieces.push(...this.columns(parts, look, 0));
        i = last;
        continue;
      }
      if (
        !isBlock(one) &&
        !isButton(one) &&
        one.tag !== "img" &&
        !FOREIGN.has(one.tag) &&
        !holdsMore(one)
      ) {
        run.push(one);
        continue;
      }
      end();
      pieces.push(...this.element(one, look, href));
    }
    end();
    return joined(pieces);
  }

  private element(el: El, around: Look, href: string | null): ForeignPiece[] {
    const look = lookIn(el, around);
    const { tag } = el;
    if (tag === "img") return this.image(el, around, href);
    if (tag === "hr") return this.empty(el, around);
    if (FOREIGN.has(tag)) return this.foreign(el, look);
    if (isButton(el)) return [this.button(el, null, around)];
    if (tag === "table") return this.table(el, look);
    const to = tag === "a" ? el.attrs.href || href : href;
    if (tag === "ul" || tag === "ol" || tag === "dl" || tag === "blockquote" || tag === "pre") {
      if (
        !some(
          el,
          (one) =>
            one.tag === "img" || one.tag === "table" || FOREIGN.has(one.tag) || isButton(one),
        )
      ) {
        return this.words([el], around, href);
      }
    }
    if (/^h[1-6]$|^p$/.test(tag) && !holdsMore(el)) return this.words([el], around, href);
    if (letters(el) === 0 && !some(el, ({ tag: one }) => one === "img" || FOREIGN.has(one))) {
      return this.empty(el, look);
    }
    const boxed = this.boxedButton(el, around);
    if (boxed) return [boxed];
    if (el.css.display?.includes("flex") && !/column/.test(el.css["flex-direction"] ?? "")) {
      const parts = el.children.filter(isEl).filter((one) => !isHidden(one) && isSeen(one));
      if (parts.length > 1 && parts.length <= COLUMNS) return this.columns(parts, look, 0);
    }
    this.backdrop(el);
    return this.inside(el, look, to);
  }

  private backdrop({ attrs, css }: El) {
    const url =
      attrs.background ?? /url\(\s*['"]?([^'")]+)/i.exec(css["background-image"] ?? "")?.[1];
    if (url) this.notes.backdrops.push(url);
  }

  /** Running words; what looks like a heading is one. */
  private words(run: readonly Inner[], around: Look, href: string | null): ForeignPiece[] {
    const pieces: ForeignPiece[] = [];
    for (const nodes of paragraphsOf(run)) {
      if (nodes.every((one) => letters(one) === 0)) continue;
      const { look, heading } = headingIn(nodes, around);
      if (this.options.aloneIsButton && heading === null) {
        const alone = aloneLink(nodes);
        if (alone) {
          pieces.push(this.button(alone, null, look));
          continue;
        }
      }
      const linked: readonly Inner[] = href
        ? [{ tag: "a", attrs: { href }, css: {}, children: nodes }]
        : nodes;
      pieces.push({ kind: "words", nodes: linked, heading, look, pad: [0, 0, 0, 0] });
    }
    return pieces;
  }

  private image(el: El, look: Look, href: string | null): ForeignPiece[] {
    const is = imageIs(el);
    const { width, height } = sizeOf(el, look.width);
    const pad: [number, number, number, number] = [0, 0, 0, 0];
    if (is === "counter") {
      this.notes.counters++;
      return [];
    }
    if (is === "room") return height && height >= 8 ? [{ kind: "spacer", height, look, pad }] : [];
    return [
      { kind: "image", src: el.attrs.src!, alt: el.attrs.alt ?? null, width, href, look, pad },
    ];
  }

  private empty(el: El, look: Look): ForeignPiece[] {
    const is = emptyIs(el, look);
    return is
      ? [
          {
            ...is,
            ...(is.kind === "divider" && { colour: hexIn(is.colour ?? undefined) }),
            look,
            pad: [0, 0, 0, 0],
          } as ForeignPiece,
        ]
      : [];
  }

  private foreign(el: El, look: Look): ForeignPiece[] {
    if (letters(el) === 0 && !some(el, ({ tag }) => tag === "img")) return [];
    return [{ kind: "html", nodes: [el], why: `a ${el.tag} element`, look, pad: [0, 0, 0, 0] }];
  }

  private button(link: El, box: El | null, around: Look): ForeignPiece {
    const look = lookIn(link, around);
    const inner = dressed(link);
    const fill = (inner && groundOf(inner)) ?? (box && groundOf(box));
    const words = visibleText(link);
    const wide =
      link.css.display === "block" &&
      (link.css.width === "100%" || !link.css.width) &&
      link.css["text-align"] === "center";
    return {
      ...{ kind: "button", words, href: link.attrs.href!, fill, wide },
      ink: inkWithin(link, around),
      corner: cornerOf(link, inner, box),
      look: { ...look, align: around.align, ground: around.ground },
      pad: [0, 0, 0, 0],
    };
  }

  /** A cell or a division with a ground of its own that holds a link alone. */
  private boxedButton(el: El, around: Look): ForeignPiece | null {
    const ground = groundOf(el);
    if (!ground || ground === around.ground) return null;
    const link = onlyLink(el);
    return link && !dressed(link) ? this.button(link, el, lookIn(el, around)) : null;
  }

  private table(table: El, look: Look): ForeignPiece[] {
    if (isData(table)) return [{ kind: "table", nodes: [table], look, pad: [0, 0, 0, 0] }];
    this.backdrop(table);
    const room = pxIn(table.attrs.cellpadding) ?? 0;
    const pieces = table.children
      .filter(isEl)
      .filter(({ tag }) => tag === "caption")
      .flatMap((caption) => this.inside(caption, lookIn(caption, look)));
    for (const row of rowsOf(table)) {
      if (isHidden(row)) continue;
      const within = lookIn(row, look);
      const cells = cellsOf(row).filter((one) => !isHidden(one));
      const seen = cells.filter(isSeen);
      if (seen.length === 0) {
        const [first] = cells.flatMap((one) => padded(this.empty(one, within), one, 0));
        const gaps = cells.flatMap((one) => this.flow(one.children, lookIn(one, within), null));
        if (first) pieces.push(first);
        else pieces.push(...gaps.slice(0, 1));
      } else if (seen.length === 1) pieces.push(...this.cell(seen[0]!, within, room));
      else
        pieces.push(
          ...this.columns(
            seen,
            within,
            room,
            table.attrs.dir === "rtl" && seen.some(({ attrs }) => attrs.dir === "ltr"),
          ),
        );
    }
    return padded(pieces, table, 0);
  }

  private cell(el: El, around: Look, room: number): ForeignPiece[] {
    const boxed = this.boxedButton(el, around);
    if (boxed) return [boxed];
    this.backdrop(el);
    return this.inside(el, lookIn(el, around), null, room);
  }

  /** Parts that stand beside each other. */
  private columns(parts: readonly El[], look: Look, room: number, turned = false): ForeignPiece[] {
    const pad: [number, number, number, number] = [0, 0, 0, 0];
    const widths = parts.map((el) => widthOf(el, look.width));
    const known = widths.reduce<number>((sum, width) => sum + (width ?? 0), 0);
    const open = widths.filter((width) => width === null).length;
    const rest = open ? Math.max(look.width * 0.1, (look.width - known) / open) : 0;
    const shares = widths.map((width) => width ?? rest);
    const whole = shares.reduce((sum, one) => sum + one, 0);
    const columns = parts.map((el, i): ForeignColumn => {
      const share = shares[i]! / whole;
      const own = { ...look, width: look.width * share };
      return {
        share,
        pieces: this.fitting(
          el.tag === "td" || el.tag === "th"
            ? this.cell(el, own, room)
            : this.element(el, own, null),
        ),
      };
    });
    const filled = columns.filter(({ pieces }) => pieces.some(({ kind }) => kind !== "spacer"));
    if (filled.length < 2) return filled.flatMap(({ pieces }) => pieces);
    const icons = filled.map(({ pieces }) => iconOf(pieces));
    if (icons.every((one) => one !== null)) return [{ kind: "icons", icons, look, pad }];
    const links = parts.map((el) => onlyLink(el)).filter((one) => one !== null);
    if (
      links.length === parts.length &&
      filled.every(({ pieces }) => pieces.every(({ kind }) => kind === "words"))
    ) {
      const said = links.map((one) => ({ words: visibleText(one), href: one.attrs.href! }));
      return [{ kind: "links", links: said, look: lookIn(links[0]!, look), pad }];
    }
    if (filled.length > COLUMNS) {
      this.notes.stacked++;
      return filled.flatMap(({ pieces }) => pieces);
    }
    return [
      {
        kind: "columns",
        columns: turned ? filled.toReversed() : filled,
        reversed: turned,
        look,
        pad,
      },
    ];
  }

  /** What can stand in a column: columns within it one under the other. */
  private fitting(pieces: readonly ForeignPiece[]): ForeignPiece[] {
    return pieces.flatMap((one) => {
      if (one.kind !== "columns") return [one];
      this.notes.stacked++;
      return one.columns.flatMap((column) => column.pieces);
    });
  }
}

/** Pieces with the room around them that what they stand in gives. */
function padded(pieces: ForeignPiece[], el: El, cell: number): ForeignPiece[] {
  const [top, right, bottom, left] = paddingOf(el, cell);
  for (const [i, { pad }] of pieces.entries()) {
    if (i === 0) pad[0] += top;
    if (i === pieces.length - 1) pad[2] += bottom;
    pad[1] += right;
    pad[3] += left;
  }
  return pieces;
}

/** The pieces of a foreign email, and what there is to tell. */
export function piecesOf(
  body: El,
  options: Options,
): { pieces: ForeignPiece[]; notes: Notes; look: Look } {
  const reader = new Reader(options);
  const look = lookIn(body, { ...START, dir: body.attrs.dir === "rtl" ? "rtl" : "ltr" });
  const pieces = reader.inside(body, { ...look, width: 700 });
  return { pieces, notes: reader.notes, look };
}
