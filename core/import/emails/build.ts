/** The blocks and bands that a foreign email becomes. */
import { blockOfPiece } from "../../blocks/from-pieces.ts";
import { createBand, createColumn, itemKind } from "../../blocks/index.ts";
import { newBlock } from "../../blocks/style.ts";
import { PLAIN_TYPE, type Type } from "../../blocks/type-style.ts";
import type { DocNode, EmailDocument } from "../../document/index.ts";
import type { JsonObject } from "../../json.ts";
import { createItem } from "../../kinds/item.ts";
import { WORDS_SIZE } from "../../kinds/narrow.ts";
import { LIMITS } from "../../limits.ts";
import { doc, isBlank, type Line, type Link, type Piece, type TextJson } from "../../text/index.ts";
import type { Colour, Theme } from "../../theme/theme.ts";
import { GROUNDS, INKS, near, roleOf } from "./colours.ts";
import type { Look } from "./look.ts";
import type { ForeignPiece, KindOf } from "./pieces.ts";
import { type Inner, isEl, visibleText } from "./tree.ts";
import { type ImageAt, sourceOf, wordsOf } from "./words.ts";

export interface Building {
  /** An email with the theme that blocks are made for. */
  readonly doc: EmailDocument;
  readonly theme: Theme;
  /** Colours, sizes and spacing stay as they came; else they are the theme's. */
  readonly keepLook: boolean;
  newId(): string;
  linkOf(href: string): Link | null;
  /** A picture of the library by the address it had; null where it is not there. */
  pictureOf(src: string): string | null;
  /** The same where HTML stays: its address on the web. */
  addressOf: ImageAt;
  words(text: TextJson): TextJson;
  line(text: string): Line;
}

/** What a piece could not be, for the report. */
export interface Rest {
  readonly why: string;
}

type Standing = { readonly before: number; readonly after: number };
/** px above and below that each kind has where nothing around it says more. */
const ROOM: Record<string, Standing> = {
  words: { before: 8, after: 8 },
  heading: { before: 12, after: 4 },
  button: { before: 8, after: 8 },
  divider: { before: 8, after: 8 },
  table: { before: 8, after: 8 },
};

const clamp = (n: number) => Math.round(Math.min(LIMITS.padding, Math.max(0, n)));

export class Builder {
  readonly rest: Rest[] = [];
  constructor(private readonly how: Building) {}

  /** The blocks of pieces that stand on a ground. */
  blocks(pieces: readonly ForeignPiece[], ground: string): DocNode[] {
    return pieces.flatMap((piece) =>
      this.block(piece).map((block) => this.standing(block, piece, ground)),
    );
  }

  /** Room, side and ground of a block, as they came. */
  private standing(block: DocNode, piece: ForeignPiece, ground: string): DocNode {
    const { look, pad, kind } = piece;
    const { keepLook, theme } = this.how;
    const align =
      look.align === null
        ? null
        : look.align === "center"
          ? "center"
          : (look.align === "right") === (look.dir === "ltr")
            ? "end"
            : "start";
    const box = block.props.box as JsonObject;
    const room = ROOM[block.type === "heading" ? "heading" : kind] ?? { before: 0, after: 0 };
    const own = {
      ...box,
      ...(align && { align }),
      ...(keepLook && {
        padding: {
          top: clamp(room.before + pad[0]),
          right: clamp(pad[1]),
          bottom: clamp(room.after + pad[2]),
          left: clamp(pad[3]),
        },
        background: near(look.ground, ground) ? null : roleOf(look.ground, theme.colours, GROUNDS),
      }),
    };
    return { ...block, props: { ...block.props, box: own } };
  }

  /** What stands around columns. */
  private around({ pad: [top, right, bottom, left] }: ForeignPiece) {
    return { top: clamp(top), right: clamp(right), bottom: clamp(bottom), left: clamp(left) };
  }

  private ink(look: Look): { colour?: Colour } {
    return this.how.keepLook ? { colour: roleOf(look.ink, this.how.theme.colours, INKS) } : {};
  }

  private new(type: string, props: object, children?: DocNode[]): DocNode {
    return newBlock(this.how.doc, type, this.how.newId, props as JsonObject, children);
  }

  private block(piece: ForeignPiece): DocNode[] {
    switch (piece.kind) {
      case "words":
        return this.words(piece);
      case "table":
        return this.table(piece);
      case "image":
        return [this.image(piece)];
      case "button":
        return [this.button(piece)];
      case "divider":
        return [
          this.new(
            "divider",
            this.how.keepLook
              ? {
                  thickness: Math.min(12, Math.max(1, Math.round(piece.thickness))),
                  ...(piece.colour && {
                    colour: roleOf(piece.colour, this.how.theme.colours, ["line", "accent"]),
                  }),
                }
              : {},
          ),
        ];
      case "spacer": {
        const { least, most } = LIMITS.spacer;
        return [
          this.new("spacer", { height: Math.round(Math.min(most, Math.max(least, piece.height))) }),
        ];
      }
      case "links":
        return [this.links(piece)];
      case "icons":
        return [this.icons(piece)];
      case "html":
        return [this.html(piece.nodes, piece.why)];
      case "columns":
        return piece.columns.flatMap(({ pieces }) => pieces.flatMap((one) => this.block(one)));
    }
  }

  /** What stays HTML; where that is longer than a block may be, its words alone are left. */
  private html(nodes: readonly Inner[], why: string | null): DocNode {
    if (why !== null) this.rest.push({ why });
    const source = sourceOf(nodes, this.how.addressOf);
    if (source.length <= LIMITS.htmlSource) return this.new("html", { source });
    const words = nodes.map(visibleText).join(" ");
    return this.new("text", { words: this.how.words(doc(words.slice(0, LIMITS.pasteText))) });
  }

  private words({ nodes, heading, look }: KindOf<"words">): DocNode[] {
    const bare = heading !== null && !nodes.some((one) => isEl(one) && /^h[1-6]$/.test(one.tag));
    const whole = bare ? [{ tag: `h${heading}`, attrs: {}, css: {}, children: nodes }] : nodes;
    return wordsOf(whole, this.how.linkOf).flatMap((one) => this.piece(one, look));
  }

  /** Words with tags for the names that mean a value. */
  private tagged(one: Piece): Piece {
    if (one.kind !== "table") return { ...one, words: this.how.words(one.words) };
    return { ...one, rows: one.rows.map((cells) => cells.map((cell) => this.how.words(cell))) };
  }

  private piece(given: Piece, look: Look, more: object = {}): DocNode[] {
    const one = this.tagged(given);
    if (one.kind !== "table" && isBlank(one.words)) return [];
    const { type } = this.how.theme;
    const usual = one.kind === "heading" ? type[`heading${one.level}`] : type.body;
    const dressed = one.kind === "table" ? {} : { ...this.ink(look), ...this.sized(look, usual) };
    return [blockOfPiece(this.how.doc, one, this.how.newId, { ...dressed, ...more })];
  }

  private sized({ size }: Look, usual: number): { type?: Type } {
    const px = Math.round(Math.min(WORDS_SIZE.max, Math.max(WORDS_SIZE.min, size)));
    return this.how.keepLook && px !== usual ? { type: { ...PLAIN_TYPE, size: px } } : {};
  }

  /** A table of data; what stands over it is its caption. */
  private table({ nodes, look }: KindOf<"table">): DocNode[] {
    const caption = nodes
      .flatMap((one) => (isEl(one) ? one.children.filter(isEl) : []))
      .find(({ tag }) => tag === "caption");
    const words = caption ? visibleText(caption) : "";
    const over = words ? { caption: this.how.line(words), parts: { caption: true } } : {};
    return wordsOf(nodes, this.how.linkOf).flatMap((one) =>
      this.piece(one, look, one.kind === "table" ? over : {}),
    );
  }

  private image({ src, alt, width, href, look, pad }: KindOf<"image">): DocNode {
    const picture = this.how.pictureOf(src);
    if (picture === null) {
      const img = {
        tag: "img",
        attrs: { src, alt: alt ?? "", ...(width && { width: String(Math.round(width)) }) },
        css: {},
        children: [],
      };
      return this.html(
        [href ? { tag: "a", attrs: { href }, css: {}, children: [img] } : img],
        null,
      );
    }
    const room = Math.max(1, look.width - pad[1] - pad[3]);
    const share = width === null ? 100 : Math.round((100 * width) / room);
    return this.new("image", {
      ...{
        picture,
        alt: this.how.line(alt ?? ""),
        decorative: alt === "",
        to: this.leads(href),
      },
      share: share >= 95 ? 100 : Math.max(10, share),
    });
  }

  private button({ words, href, fill, ink, corner, wide }: KindOf<"button">): DocNode {
    const { colours } = this.how.theme;
    const look = this.how.keepLook && {
      ...(fill
        ? { fill: roleOf(fill, colours, ["accent"]), colour: roleOf(ink, colours, ["onAccent"]) }
        : { look: "outline", fill: roleOf(ink, colours, ["accent", "ink"]) }),
      ...{ corner, wide: wide ? "full" : "words" },
    };
    return this.new("button", {
      ...{ label: this.how.line(words), to: this.leads(href) },
      ...look,
    });
  }

  private item(type: string, props: object): DocNode {
    return createItem(itemKind(type)!, this.how.newId, props);
  }
  private leads(href: string | null): Link {
    return (href !== null && this.how.linkOf(href)) || { kind: "none" };
  }

  private links({ links }: KindOf<"links">): DocNode {
    const items = links.map(({ words, href }) =>
      this.item("linksRow.link", { label: this.how.line(words), to: this.leads(href) }),
    );
    return this.new("linksRow", {}, items);
  }

  private icons({ icons }: KindOf<"icons">): DocNode {
    const items = icons.map(({ src, alt, href }) => {
      const picture = this.how.pictureOf(src);
      return this.item("socialLinks.link", {
        ...{ sign: "chain", label: this.how.line(alt), picture, to: this.leads(href) },
      });
    });
    return this.new("socialLinks", {}, items);
  }

  /** The bands of an email: one for each change of ground, and for each row of columns. */
  bands(pieces: readonly ForeignPiece[]): DocNode[] {
    const { theme, newId, keepLook } = this.how;
    const bands: DocNode[] = [];
    let run: ForeignPiece[] = [];
    const ground = (hex: string) =>
      keepLook && !near(hex, theme.colours.sheet) && !near(hex, theme.colours.ground)
        ? { background: roleOf(hex, theme.colours, ["tint", "accent"]) }
        : {};
    const end = () => {
      const [first] = run;
      if (first) {
        const blocks = this.blocks(run, first.look.ground);
        if (blocks.length)
          bands.push(createBand(newId, [createColumn(newId, blocks)], ground(first.look.ground)));
      }
      run = [];
    };
    for (const piece of pieces) {
      if (piece.kind === "columns") {
        end();
        const columns = piece.columns.map(({ share, pieces: own }) =>
          createColumn(
            newId,
            this.blocks(own, piece.look.ground),
            Math.max(1, Math.round(share * 100)),
          ),
        );
        bands.push(
          createBand(newId, columns, {
            ...ground(piece.look.ground),
            ...(keepLook && { padding: this.around(piece) }),
            onNarrow: piece.reversed ? "reverse" : "stack",
          }),
        );
        continue;
      }
      if (run[0] && !near(run[0].look.ground, piece.look.ground)) end();
      run.push(piece);
    }
    end();
    return bands;
  }
}
