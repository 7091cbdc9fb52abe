/** The parts of a document that some readers see and others do not: nodes, and words in their texts. */
import { labelOf, textsOf } from "../blocks/index.ts";
import { nameOf } from "../blocks/names.ts";
import { type DocNode, type EmailDocument, valueAt } from "../document/index.ts";
import { type HandText, handParts } from "../kinds/hand-text.ts";
import {
  type Seen,
  seenRuns,
  type TextJson,
  type When,
  whenBoth,
  whensOf,
  wordsOf,
} from "../text/index.ts";
import { trimmed } from "../words.ts";

export interface ConditionalPart {
  /** The node it is, or that its words stand in. */
  readonly node: DocNode;
  readonly seen: Seen;
  /** The words, where it is not the node itself. */
  readonly words: string | null;
  /** When it is shown, what it stands in taken in. */
  readonly when: When;
}

const ALWAYS: When = { all: [], none: [] };

function* wordsIn(value: TextJson, node: DocNode, outer: When | null): Generator<ConditionalPart> {
  const content = value.content ?? [];
  for (const { seen, when, parts } of seenRuns(content)) {
    if (seen) {
      const words = wordsOf({ type: "line", content: parts });
      yield { node, seen, words, when: whenBoth(outer, when) ?? ALWAYS };
    }
  }
  for (const inner of content) if (inner.content) yield* wordsIn(inner, node, outer);
}

function* visit(nodes: readonly DocNode[], outer: When | null): Generator<ConditionalPart> {
  const seen = nodes.map((node) => node.props as unknown as Partial<Seen>);
  const whens = whensOf(seen.map(({ seenBy = null, chain = null }) => ({ seenBy, chain })));
  for (const [i, node] of nodes.entries()) {
    const { seenBy = null, chain = null } = seen[i]!;
    const when = whenBoth(outer, whens[i]!);
    if (seenBy !== null || chain !== null) {
      yield { node, seen: { seenBy, chain }, words: null, when: when ?? ALWAYS };
    }
    for (const { path } of textsOf(node.type)) {
      const text = valueAt(node.props, path) as unknown as TextJson | undefined;
      if (text) yield* wordsIn(text, node, when);
    }
    const hand = node.props.plain as HandText | null | undefined;
    for (const { seen, source, when: own } of hand ? handParts(hand) : []) {
      if (own) yield { node, seen, words: source, when: whenBoth(when, own) ?? ALWAYS };
    }
    yield* visit(node.children, when);
  }
}

/** All of them in the order of the document; words of the envelope are the email's. */
export const conditionalParts = (document: EmailDocument): ConditionalPart[] => [
  ...visit([document.root], null),
];

/** All words of a text, one after another. */
const plainText = (text: TextJson): string =>
  text.text ?? (text.content ?? []).map(plainText).join("");

/** How much of a part's words stands in its name. */
const NAME_LENGTH = 28;

/** What a part is called: words by themselves, a node by its name and, where that is only its kind, its first words. */
export function partName({ node, words }: ConditionalPart): string {
  if (words !== null) return `“${trimmed(words, NAME_LENGTH)}”`;
  const name = nameOf(node);
  const [first] = textsOf(node.type);
  const own = first && name === labelOf(node) ? valueAt(node.props, first.path) : null;
  const begins = own ? trimmed(plainText(own as unknown as TextJson), NAME_LENGTH) : "";
  return begins ? `${name}: “${begins}”` : name;
}
