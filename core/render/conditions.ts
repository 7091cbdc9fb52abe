/** The conditions in a document: the rules of its parts and of words in them. Kept per node: nodes never change. */
import { type DerivedTags, derivedBehind, derivedConditions } from "../derived/index.ts";
import type { DocNode, EmailDocument } from "../document/index.ts";
import { mentionsOf, refsIn } from "../mentions/index.ts";

const own = new WeakMap<DocNode, readonly string[]>();

/** The rules a node names itself: its own, and those of words in its texts, in every language. */
function ownKeys(node: DocNode): readonly string[] {
  let keys = own.get(node);
  if (!keys) {
    const found = new Set<string>();
    for (const mention of mentionsOf(node))
      if (mention.what === "condition") found.add(mention.key);
    keys = [...found];
    own.set(node, keys);
  }
  return keys;
}

/** The rules on which a node and what it holds depend, as their canonical text, each once and in their order. */
export function conditionsIn(node: DocNode, derived: DerivedTags = new Map()): string[] {
  const found = new Set<string>();
  const refs = new Set<string>();
  const visit = (one: DocNode) => {
    for (const key of ownKeys(one)) found.add(key);
    if (derived.size > 0) for (const ref of refsIn(one)) refs.add(ref);
    for (const child of one.children) visit(child);
  };
  visit(node);
  for (const tag of derivedBehind(refs, derived)) {
    for (const key of derivedConditions(tag)) found.add(key);
  }
  return [...found];
}

/** The rules on which the parts of an email depend: what a reader's bits stand for. */
export const conditionsOf = (document: EmailDocument, derived?: DerivedTags): string[] =>
  conditionsIn(document.root, derived);
