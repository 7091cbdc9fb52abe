/** One block, as the table row it is in its column, and as plain text. Kept per node: nodes never change. */
import { blockKind, isWhole } from "../blocks/index.ts";
import { CARD, type DocNode } from "../document/index.ts";
import type { LiveItem } from "../items/index.ts";
import { type BlockProps, type Dir, sideOf, someSides } from "../kinds/common.ts";
import { dress } from "../kinds/dress.ts";
import { handParts } from "../kinds/hand-text.ts";
import type { BlockContext, BlockKind, LiveList, Surroundings } from "../kinds/kind.ts";
import type { Title } from "../kinds/title.ts";
import {
  attrs,
  html,
  join,
  liquidMarkup,
  Markup,
  shownWhen,
  slot,
  unmarked,
} from "../markup/index.ts";
import { isEmptyLink, type Link, type Seen, whensOf } from "../text/index.ts";
import { inkOn, resolveColour, type Theme } from "../theme/theme.ts";
import { withChosenWords } from "./chosen.ts";
import { filled, saidIn, type Telling } from "./filled.ts";
import { leadingTo } from "./through.ts";

/** What all blocks of one email share. Kept as one object per root, so that caches can compare it. */
export interface EmailContext {
  readonly theme: Theme;
  readonly lang: string;
  readonly dir: Dir;
  readonly width: number;
  readonly surroundings: Surroundings;
  /** The titles of the email that is rendered at the moment. */
  readonly titles: { current: readonly Title[] };
  /** Where all leads that is no link itself. */
  readonly through?: Link;
  /** Cards are as high as the columns beside them. */
  readonly fills?: boolean;
  /** Height over width, per cent, of pictures that have no height of their own. */
  readonly shape?: number;
}

/** The mark that names a node on the sheet. */
export const mark = (node: DocNode): Markup => slot({ slot: "mark", node: node.id, text: null });

/** Who sees each of some neighbours. */
export const seenBy = (nodes: readonly DocNode[]): Seen[] =>
  nodes.map((node) => node.props as unknown as Seen);

/** Classes of the small style element; see skeleton.ts. */
export function showClass(show: BlockProps["show"], kind: "row" | "table"): string | null {
  if (show === "wide") return "nw";
  if (show === "narrow") return kind === "row" ? "nr" : "nt";
  return null;
}

interface Made {
  width: number;
  html: Markup;
  /** As it goes into the plain text: the hand-written one where there is one. */
  text: Markup;
  /** The titles of the email that it was made with; null where it does not ask for them. */
  titles: readonly Title[] | null;
}

/** Whether what is rendered at the moment has asked for the titles. */
let asked = false;
/** By what it was rendered with: each language of an email keeps its own. */
const made = new WeakMap<EmailContext, WeakMap<DocNode, Made>>();

/** Pixels inside a block's own paddings and border. */
export function innerWidth({ box }: BlockProps, width: number): number {
  const { padding, border } = box;
  return Math.max(1, width - padding.left - padding.right - 2 * border.width);
}

const variants = new WeakMap<EmailContext, WeakMap<object, EmailContext>>();
/** What stands for variants that depend on nothing else. */
const WITHIN = {};

/** A context with something else in it; the same object for the same `key`, so that caches hold. */
export function variant(
  context: EmailContext,
  key: object,
  change: Partial<EmailContext>,
): EmailContext {
  const known = variants.get(context) ?? new WeakMap<object, EmailContext>();
  variants.set(context, known);
  const made = known.get(key) ?? { ...context, ...change };
  known.set(key, made);
  return made;
}

/** The context of what stands in a block. */
export function heldContext(holder: DocNode, context: EmailContext): EmailContext {
  // A card in a card is as high as what is in it.
  const around = context.fills ? variant(context, WITHIN, { fills: false }) : context;
  const to = blockKind(holder.type)?.leadsAll?.(holder.props as unknown as BlockProps);
  return to && !isEmptyLink(to) ? variant(around, to, { through: to }) : around;
}

type DesignHow = Parameters<BlockContext["design"]>[2];
const shapes = new Map<number, object>();
const shapeKey = (shape: number): object => {
  const key = shapes.get(shape) ?? {};
  shapes.set(shape, key);
  return key;
};

const tellingOf = ({ lang, surroundings }: EmailContext): Telling => ({
  lang,
  base: surroundings.publicAddress,
  zoneField: surroundings.zoneField ?? null,
});

/** The context of the design of an item, whose whole may be a link. */
function designContext(
  holder: DocNode,
  email: EmailContext,
  to: Link | null,
  shape: number | null,
): EmailContext {
  const around = heldContext(holder, email);
  const cut = shape === null ? around : variant(around, shapeKey(shape), { shape });
  return to && !isEmptyLink(to) ? variant(cut, to, { through: to }) : cut;
}

/** What a block, or an item in it, is rendered with. */
class Rendering implements BlockContext {
  readonly theme: Theme;
  readonly lang: string;
  readonly brand: Surroundings["brand"];
  readonly publicAddress: string;
  readonly pictures: Surroundings["pictures"];
  readonly derived: Surroundings["derived"];
  readonly node: string;
  readonly children: readonly DocNode[];
  readonly fills: boolean;
  readonly shape?: number;
  constructor(
    private readonly holder: DocNode,
    readonly width: number,
    readonly dir: Dir,
    private readonly email: EmailContext,
  ) {
    const { brand, publicAddress, pictures, derived } = email.surroundings;
    this.node = holder.id;
    this.children = holder.children;
    this.fills = email.fills === true && holder.type === CARD;
    if (email.shape) this.shape = email.shape;
    this.theme = email.theme;
    this.lang = email.lang;
    this.brand = brand;
    this.publicAddress = publicAddress;
    this.pictures = pictures;
    this.derived = derived;
  }
  text(path: string): Markup {
    return slot({ slot: "mark", node: this.node, text: path });
  }
  item(child: DocNode) {
    return { mark: mark(child), ctx: new Rendering(child, this.width, this.dir, this.email) };
  }
  titles() {
    asked = true;
    return this.email.titles.current;
  }
  block(child: DocNode, width: number) {
    const { html, text } = renderBlock(child, width, heldContext(this.holder, this.email));
    const when = whensOf(seenBy(this.children))[this.children.indexOf(child)]!;
    return { html: shownWhen(when, html), text: { when, text } };
  }
  itemsHere(): LiveList | null {
    return this.email.surroundings.live?.get(this.node) ?? null;
  }
  design(item: LiveItem, width: number, { first, to, shape }: DesignHow) {
    const context = designContext(this.holder, this.email, to, shape);
    const whens = whensOf(seenBy(this.children));
    const telling = tellingOf(this.email);
    const blocks = this.children.map((child, i) => {
      const made = renderBlock(filled(child, item, telling), width, context);
      const html = saidIn(made.html, item, telling);
      const text = saidIn(made.text, item, telling);
      const when = whens[i]!;
      return { html: shownWhen(when, first ? html : unmarked(html)), text: { when, text } };
    });
    return { html: join(blocks.map((one) => one.html)), text: blocks.map((one) => one.text) };
  }
}

/** What a block is rendered with in a column of the given width (px). */
function contextFor(node: DocNode, width: number, context: EmailContext): BlockContext {
  const props = node.props as unknown as BlockProps;
  return new Rendering(node, innerWidth(props, width), props.box.dir ?? context.dir, context);
}

/** The plain text that is made from a block, whether or not another was written by hand. */
export function madeText(block: DocNode, width: number, context: EmailContext): Markup {
  const kind = blockKind(block.type);
  const node = withChosenWords(block, context.surroundings.derived);
  return kind
    ? kind.text(node.props as unknown as BlockProps, contextFor(node, width, context))
    : Markup.empty;
}

function textOf(kind: BlockKind, props: BlockProps, ctx: BlockContext): Markup {
  if (props.show === "narrow") return Markup.empty;
  if (!props.plain) return kind.text(props, ctx);
  return join(
    handParts(props.plain).map(({ source, when }) =>
      shownWhen(when, liquidMarkup(source, "text", ctx.node), "words"),
    ),
  );
}

/** Renders a block for a column of the given width (px), or takes what was made before. */
export function renderBlock(block: DocNode, width: number, context: EmailContext): Made {
  const known = made.get(context) ?? new WeakMap<DocNode, Made>();
  made.set(context, known);
  const before = known.get(block);
  if (
    before?.width === width &&
    (before.titles ?? context.titles.current) === context.titles.current
  ) {
    asked ||= before.titles !== null;
    return before;
  }
  const kind = blockKind(block.type);
  if (!kind) return { width, html: Markup.empty, text: Markup.empty, titles: null };
  const askedBefore = asked;
  asked = false;
  const said = withChosenWords(block, context.surroundings.derived);
  const node = context.through ? leadingTo(said, context.through) : said;
  const props = node.props as unknown as BlockProps;
  const { padding, background, border, corner, align, alignNarrow } = props.box;
  const { theme } = context;
  const ctx = contextFor(node, width, context);
  const side = sideOf(align, ctx.dir);
  const plain = align === "start" && ctx.dir === "ltr" && context.dir === "ltr";
  const row = attrs({
    class: showClass(props.show, "row"),
    style: props.show === "narrow" ? "display:none" : null,
  });
  const edge = border.width
    ? `${border.width}px solid ${resolveColour(border.colour, theme)}`
    : null;
  const look = dress(
    theme,
    {
      ink: background && inkOn(background, theme),
      ground: background,
      rule: border.width ? border.colour : null,
    },
    {
      padding: someSides(padding, ctx.dir),
      border: edge,
      "border-radius": corner ? `${corner}px` : null,
    },
    {
      cell: true,
      classes: [
        padding.left + padding.right >= 40 && "sp",
        alignNarrow && `a${sideOf(alignNarrow, ctx.dir)[0]}`,
      ],
    },
  );
  const dir = ctx.dir === context.dir ? null : ctx.dir;
  const cell = attrs({ align: plain ? null : side, dir, height: ctx.fills ? "100%" : null });
  const result: Made = {
    width,
    html: html`<tr${mark(node)}${row}><td${cell}${look}>${kind.html(props, ctx)}</td></tr>`,
    // Where a card leads, its text says once.
    text: textOf(kind, said.props as unknown as BlockProps, contextFor(said, width, context)),
    titles: asked ? context.titles.current : null,
  };
  asked ||= askedBefore;
  // What is still empty in it is made again when that is there.
  if (isWhole(block)) known.set(block, result);
  return result;
}

/** A block of the design of an item as it stands on the sheet: with what the first item says. */
export function renderDesigned(
  block: DocNode,
  holder: DocNode,
  width: number,
  context: EmailContext,
): Markup {
  const item = context.surroundings.live?.get(holder.id)?.items[0];
  const inner = heldContext(holder, context);
  return renderBlock(item ? filled(block, item, tellingOf(context)) : block, width, inner).html;
}
