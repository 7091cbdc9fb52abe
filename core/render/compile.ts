/**
 * Document + surroundings → compiled email: constant segments with slots, for HTML, plain text and
 * headers. Compiled once; merged with each reader's values elsewhere. The same input gives the same
 * output, byte for byte.
 */
import type { EmailProps } from "../blocks/layout.ts";
import { type DocNode, type EmailDocument, find, pathTo } from "../document/index.ts";
import { canonical } from "../json.ts";
import type { Surroundings } from "../kinds/kind.ts";
import {
  join,
  type Line,
  type Link,
  lineMarkup,
  type Markup,
  type Segment,
} from "../text/index.ts";
import { bandText, columnWidths, renderBand } from "./band.ts";
import { type EmailContext, renderBlock } from "./block.ts";
import { skeleton } from "./skeleton.ts";

/** A link of the email: numbered in reading order, counted in the results by this number. */
export interface CompiledLink {
  readonly node: string;
  readonly to: Link;
  /** The words it stands under. */
  readonly words: string;
}

export interface CompiledEmail {
  readonly html: readonly Segment[];
  readonly text: readonly Segment[];
  readonly subject: readonly Segment[];
  readonly fromName: readonly Segment[];
  readonly fromAddress: string;
  readonly replyTo: string;
  readonly lang: string;
  readonly publicAddress: string;
  readonly links: readonly CompiledLink[];
}

const contexts = new WeakMap<Surroundings, WeakMap<object, EmailContext>>();

/** The context of an email: the same object for the same root props, so that caches hold. */
function contextOf(root: DocNode, surroundings: Surroundings): EmailContext {
  const props = root.props as unknown as EmailProps;
  let byTheme = contexts.get(surroundings);
  if (!byTheme) {
    byTheme = new WeakMap();
    contexts.set(surroundings, byTheme);
  }
  const before = byTheme.get(props.theme);
  if (before && before.lang === props.lang && before.width === props.width) return before;
  const context = { theme: props.theme, lang: props.lang, width: props.width, surroundings };
  byTheme.set(props.theme, context);
  return context;
}

export const linkKey = (link: { node: string; to: Link; words: string }): string =>
  canonical({ node: link.node, to: link.to, words: link.words });

function collectLinks(...bodies: (readonly Segment[])[]): CompiledLink[] {
  const links = new Map<string, CompiledLink>();
  for (const segment of bodies.flat()) {
    if (typeof segment === "string" || segment.slot !== "link") continue;
    const { node, to, words } = segment;
    const key = linkKey(segment);
    if (!links.has(key)) links.set(key, { node, to, words });
  }
  return [...links.values()];
}

/** Compiles a whole email. */
export function compile(doc: EmailDocument, surroundings: Surroundings): CompiledEmail {
  const props = doc.root.props as unknown as EmailProps;
  const context = contextOf(doc.root, surroundings);
  const { subject, preview, fromName, fromAddress, replyTo } = props.envelope;
  const bands = join(doc.root.children.map((band) => renderBand(band, context)));
  const html = skeleton(doc.root, { subject, preview }, context, bands).segments;
  const texts = doc.root.children
    .filter((band) => band.props.show !== "narrow")
    .map((band) => bandText(band, context))
    .filter((text) => text.segments.length > 0);
  const text = join([join(texts, "\n\n"), lineMarkup(END_OF_TEXT, "text")]).segments;
  return {
    html,
    text,
    subject: lineMarkup(subject, "header").segments,
    fromName: lineMarkup(fromName, "header").segments,
    fromAddress,
    replyTo,
    lang: props.lang,
    publicAddress: surroundings.publicAddress,
    links: collectLinks(html, text),
  };
}
const END_OF_TEXT: Line = { type: "line", content: [{ type: "text", text: "\n" }] };

/** One node as the element it is on the sheet, or null when the document has no such band, column or block. */
export function compileNode(
  doc: EmailDocument,
  id: string,
  surroundings: Surroundings,
): Markup | null {
  const place = find(doc, id);
  if (!place) return null;
  const context = contextOf(doc.root, surroundings);
  const [, band, column] = pathTo(doc, id);
  if (!band) return null;
  if (!column || place.node === column) return renderBand(band, context);
  const width = columnWidths(band, context.width)[find(doc, column.id)!.index]!;
  return renderBlock(place.node, width, context).html;
}
