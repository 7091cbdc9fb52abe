/**
 * Document + surroundings → compiled email: constant segments with slots, for HTML, plain text and
 * headers. Compiled once; merged with each reader's values elsewhere. The same input gives the same
 * output, byte for byte.
 */
import { blockKind } from "../blocks/index.ts";
import { hidesBand } from "../blocks/item-list.ts";
import { countsOf, type EmailProps } from "../blocks/layout.ts";
import { sameTitles, titlesOf } from "../blocks/titles.ts";
import type { DerivedTags } from "../derived/index.ts";
import { type DocNode, type EmailDocument, find, isItemList, pathTo } from "../document/index.ts";
import { canonical } from "../json.ts";
import type { BlockProps } from "../kinds/common.ts";
import type { Brand, Surroundings } from "../kinds/kind.ts";
import { type Parameter, parametersOf } from "../kinds/parameters.ts";
import { inLanguage } from "../languages/index.ts";
import {
  allWithWhen,
  eachCell,
  join,
  joinShown,
  lineMarkup,
  Markup,
  onSheetOnly,
  plain,
  type Segment,
  type Slot,
  shownWhen,
  slot,
  withWhen,
} from "../markup/index.ts";
import { type Link, type When, whenBoth, whensOf } from "../text/index.ts";
import { bandContext, bandTexts, besideContext, columnWidths, renderBand } from "./band.ts";
import {
  type EmailContext,
  heldContext,
  innerWidth,
  madeText,
  renderBlock,
  renderDesigned,
  seenBy,
} from "./block.ts";
import { conditionsOf } from "./conditions.ts";
import { skeleton } from "./skeleton.ts";

/** A link of the email: numbered in reading order, counted in the results by this number. */
export interface CompiledLink {
  readonly node: string;
  readonly to: Link;
  /** The words it stands under. */
  readonly words: string;
}

/** What every part of a compiled email stands on. */
export interface EmailGround {
  readonly lang: string;
  readonly publicAddress: string;
  readonly brand: Brand;
  /** What of it is counted: with neither, links lead straight to where they lead, and nothing tells that it was opened. */
  readonly counts: { readonly opens: boolean; readonly clicks: boolean };
  /** What is added to the query of its web addresses. */
  readonly parameters: readonly Parameter[];
  /** The rules on which its parts depend, as their canonical text: what a reader's bits stand for. */
  readonly conditions: readonly string[];
  readonly derived: DerivedTags;
  readonly fallbacks: ReadonlyMap<string, string>;
}

export interface CompiledEmail extends EmailGround {
  readonly html: readonly Segment[];
  readonly text: readonly Segment[];
  readonly subject: readonly Segment[];
  readonly fromName: readonly Segment[];
  readonly fromAddress: string;
  readonly replyTo: string;
  readonly links: readonly CompiledLink[];
}

const contexts = new WeakMap<Surroundings, WeakMap<object, Map<string, EmailContext>>>();

/** The context of an email: the same object for the same root props, so that caches hold; each language has its own. */
function contextOf(root: DocNode, surroundings: Surroundings): EmailContext {
  const { theme, lang, dir, width } = root.props as unknown as EmailProps;
  const byTheme = contexts.get(surroundings) ?? new WeakMap<object, Map<string, EmailContext>>();
  contexts.set(surroundings, byTheme);
  const known = byTheme.get(theme) ?? new Map<string, EmailContext>();
  byTheme.set(theme, known);
  const key = `${lang} ${dir} ${width}`;
  let context = known.get(key);
  if (!context) {
    context = { theme, lang, dir, width, surroundings, titles: { current: [] } };
    known.set(key, context);
  }
  // The same list while it says the same, so that what was made with it holds.
  const titles = titlesOf(root);
  if (!sameTitles(context.titles.current, titles)) context.titles.current = titles;
  return context;
}

const targets = new WeakMap<Link, string>();

/** A link's target as text; links never change, so that each is spelled once. */
function targetKey(to: Link): string {
  let key = targets.get(to);
  if (key === undefined) {
    key = canonical(to);
    targets.set(to, key);
  }
  return key;
}

export const linkKey = (link: { node: string; to: Link; words: string }): string =>
  `${link.node}\n${link.words}\n${targetKey(link.to)}`;

function collectLinks(...bodies: (readonly Segment[])[]): CompiledLink[] {
  const links = new Map<string, CompiledLink>();
  for (const body of bodies) {
    for (const { segment } of allWithWhen(body)) {
      if (typeof segment === "string" || segment.slot !== "link") continue;
      const { node, to, words } = segment;
      const key = linkKey(segment);
      if (!links.has(key)) links.set(key, { node, to, words });
    }
  }
  return [...links.values()];
}

/** Whether a band is left out because a block in it has nothing to show, and says so. */
const isLeftOut = (band: DocNode, { live }: Surroundings): boolean =>
  band.children.some((column) =>
    column.children.some(
      (block) => isItemList(block.type) && hidesBand(block, live?.get(block.id)?.items),
    ),
  );

const NO_DERIVED: DerivedTags = new Map();
const NO_FALLBACKS: ReadonlyMap<string, string> = new Map();

/** What every part of an email stands on, in its main language or another; it costs next to nothing. */
export function groundOf(
  original: EmailDocument,
  surroundings: Surroundings,
  lang?: string,
): EmailGround {
  const props = inLanguage(original, lang).root.props as unknown as EmailProps;
  return {
    lang: props.lang,
    publicAddress: surroundings.publicAddress,
    brand: surroundings.brand,
    counts: countsOf(props),
    parameters: parametersOf(surroundings.linkParameters, props.parameters),
    conditions: conditionsOf(original, surroundings.derived),
    derived: surroundings.derived ?? NO_DERIVED,
    fallbacks: surroundings.fallbacks ?? NO_FALLBACKS,
  };
}

/** Compiles a whole email, in its main language or another; its conditions are the same in all of them. */
export function compile(
  original: EmailDocument,
  surroundings: Surroundings,
  lang?: string,
): CompiledEmail {
  const doc = inLanguage(original, lang);
  const props = doc.root.props as unknown as EmailProps;
  const context = contextOf(doc.root, surroundings);
  const { subject, preview, fromName, fromAddress, replyTo } = props.envelope;
  const whens = whensOf(seenBy(doc.root.children));
  const hidden = new Set(doc.root.children.filter((band) => isLeftOut(band, surroundings)));
  const bands = join(
    doc.root.children.map((band, i) => {
      const html = renderBand(band, context);
      // On the sheet it stands all the same: there its design is made.
      return hidden.has(band) ? onSheetOnly(html) : shownWhen(whens[i]!, html);
    }),
  );
  const html = skeleton(doc.root, { subject, preview }, context, bands).segments;
  const texts = doc.root.children.flatMap((band, i) =>
    band.props.show === "narrow" || hidden.has(band)
      ? []
      : bandTexts(band, context).map((part) => ({
          ...part,
          when: whenBoth(whens[i]!, part.when),
        })),
  );
  const text = addressed(joinShown(texts, "\n\n").segments, props.textLinks);
  const headers = {
    subject: lineMarkup(subject, "header").segments,
    fromName: lineMarkup(fromName, "header").segments,
  };
  return {
    html,
    text,
    ...headers,
    fromAddress,
    replyTo,
    links: collectLinks(html, text),
    ...groundOf(original, surroundings, lang),
  };
}
const besideWords = (link: Slot, lead: string): Markup =>
  plain`${lead}${slot(link)}${lead === " (" ? ")" : ""}`;

/** Text with its addresses where they belong. */
const inline = (segments: readonly Segment[]): readonly Segment[] =>
  join(
    segments.map((segment) => {
      if (typeof segment === "string") return plain`${segment}`;
      if (segment.slot !== "address") return slot(segment);
      const { node, to, words, lead } = segment;
      return besideWords({ slot: "link", node, to, words, as: "text" }, lead);
    }),
  ).segments;

/**
 * Plain text with its addresses: each where it belongs, or a number there and all of them listed at the end.
 */
function addressed(segments: readonly Segment[], mode: EmailProps["textLinks"]): Segment[] {
  const notes = new Map<string, { number: number; link: Slot; when: When | null }>();
  const text = Array.from(withWhen(segments), ({ segment, when }): Markup => {
    if (typeof segment === "string") return plain`${segment}`;
    // What readers have of their own stands in no list for all of them.
    if (segment.slot === "chosen") {
      return slot(eachCell(segment, (cell) => new Markup(inline(cell.segments))));
    }
    if (segment.slot !== "address") return slot(segment);
    const { node, to, words, lead } = segment;
    const link = { slot: "link", node, to, words, as: "text" } as const;
    if (mode === "inline") return besideWords(link, lead);
    // In parts for different readers it stands in the list once for each: nobody finds there what they did not see.
    const target = targetKey(to);
    const key = notes.has(target) ? target : `${target} ${when ? canonical(when) : ""}`.trim();
    const note = notes.get(key) ?? { number: notes.size + 1, link, when };
    notes.set(key, note);
    return plain`${lead === "" ? "" : " "}[${note.number}]`;
  });
  const list = [...notes.values()].map(({ number, link, when }) =>
    shownWhen(when, plain`\n[${number}] ${slot(link)}`),
  );
  const end = list.length ? plain`\n${list}\n` : plain`\n`;
  return [...join([...text, end]).segments];
}

/** The width a block has where it stands, px; null where the document has no such block. */
function widthOf(doc: EmailDocument, id: string, context: EmailContext): number | null {
  const [, band, column, ...blocks] = pathTo(doc, id);
  if (!band || !column) return null;
  let width = columnWidths(band, context.width)[find(doc, column.id)!.index]!;
  for (const holder of blocks.slice(0, -1)) {
    const props = holder.props as unknown as BlockProps;
    width = blockKind(holder.type)?.inner?.(props, innerWidth(props, width)) ?? width;
  }
  return width;
}

/** One node as the element it is on the sheet, or null when the document has no such band or block. */
export function compileNode(
  original: EmailDocument,
  id: string,
  surroundings: Surroundings,
  lang?: string,
): Markup | null {
  const doc = inLanguage(original, lang);
  const place = find(doc, id);
  if (!place) return null;
  const context = contextOf(doc.root, surroundings);
  const [, band, column] = pathTo(doc, id);
  if (!band) return null;
  if (!column || place.node === column) return renderBand(band, context);
  const width = widthOf(doc, id, context);
  if (width === null) return null;
  const holder = place.parent === column ? null : place.parent;
  const around = besideContext(band, bandContext(band, context));
  if (holder && isItemList(holder.type)) return renderDesigned(place.node, holder, width, around);
  return renderBlock(place.node, width, holder ? heldContext(holder, around) : around).html;
}

/** The plain text that is made from one block, as segments; null where the document has no such block. */
export function compileText(
  doc: EmailDocument,
  id: string,
  surroundings: Surroundings,
): Segment[] | null {
  const node = find(doc, id)?.node;
  const context = contextOf(doc.root, surroundings);
  const width = widthOf(doc, id, context);
  if (!node || width === null || !blockKind(node.type)) return null;
  return addressed(madeText(node, width, context).segments, "inline");
}
