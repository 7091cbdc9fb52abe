/**
 * The one walk over an email: everything it mentions, with the place. What a node mentions itself is found
 * by the shape of its values, so that a new block, a new property or a translation is never forgotten; it is
 * kept per node, since nodes never change. What is asked of an email is derived from it (asking.ts).
 */
import { type DocNode, type EmailDocument, isBlock } from "../document/index.ts";
import type { Json, JsonObject } from "../json.ts";
import type { Show } from "../kinds/common.ts";
import {
  isLink,
  LANDINGS,
  type Link,
  linkMentions,
  liquidMentions,
  type Seen,
  seenMention,
  TAG_REF,
  type TextJson,
  type TextMention,
  textMentions,
  type When,
  whenBoth,
  whensOf,
} from "../text/index.ts";

export type Mentioned =
  | TextMention
  /** A picture of the library, or `derived:ID` for what chooses one. */
  | { readonly what: "picture"; readonly picture: string; readonly when: When | null };

/** Where in a node something is mentioned. */
interface InNode {
  /** The way to the property it stands in. */
  readonly path: readonly string[];
  /** The language it is a translation to; null for what the node says itself. */
  readonly lang: string | null;
}
export type OwnMention = Mentioned & InNode;

/** A mention in an email: `when` takes what it stands in into account. */
export type Mention = OwnMention & {
  readonly node: DocNode;
  /** The widths at which it is shown. */
  readonly show: Show;
};

/** Properties that say how something looks, and never what. */
const LOOKS = new Set(["theme", "box", "type", "padding", "border"]);
const TEXTS = new Set(["doc", "phrase", "line"]);

type Sink = (mention: Mentioned, place: InNode) => void;

function visitValue(
  value: Json,
  path: readonly string[],
  lang: string | null,
  node: DocNode,
  sink: Sink,
): void {
  if (typeof value === "string") visitWords(value, path, lang, sink);
  if (typeof value !== "object" || value === null) return;
  if (Array.isArray(value)) {
    for (const inner of value as readonly Json[]) visitValue(inner, path, lang, node, sink);
    return;
  }
  const object = value as JsonObject;
  const place = { path, lang };
  const say = (mention: TextMention) => sink(mention, place);
  if (typeof object.type === "string" && TEXTS.has(object.type)) {
    const header = path[0] === "envelope" && path[1] !== "preview";
    textMentions(object as unknown as TextJson, header ? "header" : "html", null, say);
    return;
  }
  if (isLink(object)) {
    linkMentions(object as unknown as Link, "", null, "html", say);
    return;
  }
  const depth = path.length;
  for (const name in object) {
    if (depth === 0 && (name === "seenBy" || name === "chain" || LOOKS.has(name))) continue;
    const inner = object[name]!;
    if (depth === 0 && name === "tr") visitTranslations(inner, node, sink);
    else if (name === "plain" || (name === "source" && node.type === "html" && depth === 0)) {
      const written = name === "plain" ? (inner as JsonObject | null)?.source : inner;
      if (typeof written === "string") {
        const at = { path: [...path, name], lang };
        liquidMentions(written, name === "plain" ? "text" : "html", null, (m) => sink(m, at));
      }
    } else if (inner !== null && typeof inner !== "number" && typeof inner !== "boolean") {
      visitValue(inner, [...path, name], lang, node, sink);
    }
  }
}

/** A value that is a text by itself: the name of a picture, or an address of the envelope that a tag gives. */
function visitWords(value: string, path: readonly string[], lang: string | null, sink: Sink): void {
  if (path.at(-1) === "picture") {
    sink({ what: "picture", picture: value, when: null }, { path, lang });
  } else if (path[0] === "envelope" && TAG_REF.test(value)) {
    const tag = { ref: value, fallback: null, format: null };
    sink({ what: "tag", tag, lands: LANDINGS.header, when: null }, { path, lang });
  }
}

function visitTranslations(value: Json, node: DocNode, sink: Sink): void {
  for (const [lang, own] of Object.entries((value ?? {}) as JsonObject)) {
    for (const [key, translation] of Object.entries((own ?? {}) as JsonObject)) {
      const said = (translation as JsonObject | null)?.value;
      if (said === undefined) continue;
      const path = key.split(".");
      if (path[0] === "plain") {
        const written = (said as JsonObject | null)?.source;
        if (typeof written === "string") {
          liquidMentions(written, "text", null, (m) => sink(m, { path, lang }));
        }
      } else visitValue(said, path, lang, node, sink);
    }
  }
}

const known = new WeakMap<DocNode, readonly OwnMention[]>();

/** What a node mentions itself, in the order of its properties, its own condition first; not what it holds. */
export function mentionsOf(node: DocNode): readonly OwnMention[] {
  let found = known.get(node);
  if (!found) {
    const list: OwnMention[] = [];
    const own = seenMention(node.props as Partial<Seen>, null);
    if (own) list.push({ ...own, path: ["seenBy"], lang: null });
    visitValue(node.props, [], null, node, (mention, place) => list.push({ ...mention, ...place }));
    found = list;
    known.set(node, found);
  }
  return found;
}

const narrower = (outer: Show, inner: Show): Show | null =>
  outer === "both" || outer === inner ? inner : inner === "both" ? outer : null;

/** A node with when, and at which widths, it is shown. */
export interface ShownNode {
  readonly node: DocNode;
  readonly when: When | null;
  readonly show: Show;
}

/** The nodes of an email, top to bottom; those that no width shows are left out. */
export function shownNodes(document: EmailDocument): ShownNode[] {
  const found: ShownNode[] = [];
  const visit = (nodes: readonly DocNode[], outer: When | null, around: Show) => {
    const seen = nodes.map(({ props }) => props as unknown as Partial<Seen>);
    const whens = whensOf(seen.map(({ seenBy = null, chain = null }) => ({ seenBy, chain })));
    for (const [i, node] of nodes.entries()) {
      const own = node.type === "band" || isBlock(node.type) ? node.props.show : null;
      // What is for wide alone within what is for narrow alone is shown nowhere.
      const show = narrower(around, (own as Show | null | undefined) ?? "both");
      if (!show) continue;
      const when = whenBoth(outer, whens[i]!);
      found.push({ node, when, show });
      visit(node.children, when, show);
    }
  };
  visit([document.root], null, "both");
  return found;
}

/** Everything an email mentions, top to bottom, with when and at which widths it is shown. */
export const mentionsIn = (document: EmailDocument): Mention[] =>
  shownNodes(document).flatMap(({ node, when, show }) =>
    mentionsOf(node).map((mention) => ({
      ...mention,
      when: whenBoth(when, mention.when),
      node,
      show,
    })),
  );
