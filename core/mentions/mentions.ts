/**
 * The one walk over an email: everything it mentions, with the place. What a node mentions itself is found
 * by the shape of its values, so that a new block, a new property or a translation is never forgotten; it is
 * kept per node, since nodes never change. What is asked of an email is derived from it (asking.ts).
 */
import { isPartShown, shownChildren } from "../blocks/parts.ts";
import { type DocNode, type EmailDocument, isBlock } from "../document/index.ts";
import type { Json, JsonObject } from "../json.ts";
import type { Show } from "../kinds/common.ts";
import { handParts, handTextSchema } from "../kinds/hand-text.ts";
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

/** Properties that say how something looks or whether it is shown, and never what it says. */
const SKIPPED = new Set([
  "theme",
  "box",
  "type",
  "padding",
  "outer",
  "inner",
  "border",
  "parts",
  "placeholder",
  "seenBy",
  "item",
  "choice",
]);
const TEXTS = new Set(["doc", "phrase", "line"]);

/** One walk through the properties of a node. Every node of an email is gone through when it is compiled. */
class Walk {
  readonly found: OwnMention[] = [];
  /** The way to where the walk is; copied where something is mentioned. */
  private readonly way: string[] = [];
  private lang: string | null = null;
  constructor(private readonly node: DocNode) {}

  private readonly say = (mention: Mentioned): void => {
    this.found.push({ ...mention, path: this.way.slice(), lang: this.lang });
  };

  /** A node's own condition, and everything in its properties. */
  props(): void {
    const { props, type } = this.node;
    const { way } = this;
    const own = seenMention(props as Partial<Seen>, null);
    if (own) this.at("seenBy", () => this.say(own));
    for (const name in props) {
      const value = props[name]!;
      if (typeof value === "string") {
        if (name === "picture" || (name === "source" && type === "html")) {
          way.push(name);
          if (name === "picture") this.word(value);
          else liquidMentions(value, "html", null, this.say);
          way.pop();
        }
      } else if (typeof value === "object" && value !== null && !SKIPPED.has(name)) {
        if (name === "tr") this.translations(value as JsonObject);
        else {
          way.push(name);
          if (name === "plain") this.hand(value as JsonObject);
          else this.value(value);
          way.pop();
        }
      }
    }
  }

  private at(name: string, work: () => void): void {
    this.way.push(name);
    work();
    this.way.pop();
  }

  private value(value: Json): void {
    if (typeof value === "string") this.word(value);
    if (typeof value !== "object" || value === null) return;
    if (Array.isArray(value)) {
      for (const inner of value as readonly Json[]) this.value(inner);
      return;
    }
    const object = value as JsonObject;
    if (typeof object.type === "string" && TEXTS.has(object.type)) {
      const header = this.way[0] === "envelope" && this.way[1] !== "preview";
      textMentions(object as unknown as TextJson, header ? "header" : "html", null, this.say);
    } else if (isLink(object)) {
      linkMentions(object as unknown as Link, "", null, "html", this.say);
    } else {
      for (const name in object) {
        this.way.push(name);
        this.value(object[name]!);
        this.way.pop();
      }
    }
  }

  /** A value that is a text by itself: the name of a picture, or an address of the envelope that a tag gives. */
  private word(value: string): void {
    const { way } = this;
    if (way.at(-1) === "picture") this.say({ what: "picture", picture: value, when: null });
    else if (way[0] === "envelope" && TAG_REF.test(value)) {
      const tag = { ref: value, fallback: null, format: null };
      this.say({ what: "tag", tag, lands: LANDINGS.header, when: null });
    }
  }

  /** Plain text written by hand. A translation may be of any shape until it is looked at. */
  private hand(value: JsonObject): void {
    const hand = handTextSchema.safeParse(value);
    for (const { seen, source, when } of hand.success ? handParts(hand.data) : []) {
      const own = seenMention(seen, null);
      if (own) this.say(own);
      liquidMentions(source, "text", when, this.say);
    }
  }

  private translations(all: JsonObject): void {
    for (const [lang, own] of Object.entries(all)) {
      for (const [key, translation] of Object.entries((own ?? {}) as JsonObject)) {
        const said = (translation as JsonObject | null)?.value;
        if (said === undefined) continue;
        this.lang = lang;
        this.way.push(...key.split("."));
        if (key === "plain") this.hand((said ?? {}) as JsonObject);
        else this.value(said);
        this.way.length = 0;
        this.lang = null;
      }
    }
  }
}

const known = new WeakMap<DocNode, readonly OwnMention[]>();

/** What a node mentions itself, in the order of its properties, its own condition first; not what it holds. */
export function mentionsOf(node: DocNode): readonly OwnMention[] {
  let found = known.get(node);
  if (!found) {
    const walk = new Walk(node);
    walk.props();
    found = walk.found;
    known.set(node, found);
  }
  return found;
}

const narrower = (outer: Show, inner: Show): Show | null =>
  outer === "both" || outer === inner ? inner : inner === "both" ? outer : null;

/** A node with when, and at which widths, it is shown. */
export interface ShownNode {
  readonly node: DocNode;
  /** What it stands in. */
  readonly holder: DocNode | null;
  readonly when: When | null;
  readonly show: Show;
}

/** The nodes of an email, top to bottom; those that no width shows, or a part has switched off, are left out. */
export function shownNodes(document: EmailDocument): ShownNode[] {
  const found: ShownNode[] = [];
  const visit = (
    holder: DocNode | null,
    nodes: readonly DocNode[],
    outer: When | null,
    around: Show,
  ) => {
    const seen = nodes.map(({ props }) => props as unknown as Partial<Seen>);
    const whens = whensOf(seen.map(({ seenBy = null, chain = null }) => ({ seenBy, chain })));
    for (const [i, node] of nodes.entries()) {
      const own = node.type === "band" || isBlock(node.type) ? node.props.show : null;
      // What is for wide alone within what is for narrow alone is shown nowhere.
      const show = narrower(around, (own as Show | null | undefined) ?? "both");
      if (!show) continue;
      const when = whenBoth(outer, whens[i]!);
      found.push({ node, holder, when, show });
      visit(node, shownChildren(node), when, show);
    }
  };
  visit(null, [document.root], null, "both");
  return found;
}

/** Everything an email mentions where it is shown, top to bottom, with when and at which widths. */
export const mentionsIn = (document: EmailDocument): Mention[] =>
  shownNodes(document).flatMap(({ node, holder, when, show }) =>
    mentionsOf(node)
      .filter(({ path }) => isPartShown(node, path, holder))
      .map((mention) => ({ ...mention, when: whenBoth(when, mention.when), node, show })),
  );
