/** The conditions in a document: the rules of its parts and of words in them. Kept per node: nodes never change. */
import {
  type DerivedTags,
  derivedBehind,
  derivedConditions,
  derivedNamedIn,
} from "../derived/index.ts";
import type { DocNode, EmailDocument } from "../document/index.ts";
import type { JsonObject } from "../json.ts";
import { EVERYBODY_KEY, ruleKey, type Seen } from "../text/index.ts";

const own = new WeakMap<DocNode, readonly string[]>();

/** What a part adds: its rule; as the last of a chain without one, that it takes everybody. */
function addKey({ seenBy, chain }: Partial<Seen>, to: string[]): void {
  if (seenBy) to.push(ruleKey(seenBy));
  else if (typeof chain === "string") to.push(EVERYBODY_KEY);
}

/** What words within the texts among some values add. Every node of an email is gone through when it is compiled, so no generators here. */
function addKeysOfWords(value: object, to: string[]): void {
  if (Array.isArray(value)) {
    for (const inner of value) {
      if (typeof inner === "object" && inner !== null) addKeysOfWords(inner, to);
    }
    return;
  }
  const parts = value as JsonObject;
  if (parts.type === "who") {
    addKey(parts.attrs as unknown as Seen, to);
    return;
  }
  for (const name in parts) {
    const inner = parts[name];
    if (typeof inner === "object" && inner !== null && name !== "seenBy") addKeysOfWords(inner, to);
  }
}

function ownKeys(node: DocNode): readonly string[] {
  let keys = own.get(node);
  if (!keys) {
    const found: string[] = [];
    addKey(node.props as Partial<Seen>, found);
    addKeysOfWords(node.props, found);
    keys = found.length > 1 ? [...new Set(found)] : found;
    own.set(node, keys);
  }
  return keys;
}

const derivedOf = new WeakMap<DocNode, readonly string[]>();
/** The derived tags a node names: in its texts and addresses, and in words and HTML written by hand. */
function derivedIn(node: DocNode): readonly string[] {
  let refs = derivedOf.get(node);
  if (!refs) {
    refs = derivedNamedIn(JSON.stringify(node.props)).map((id) => `derived:${id}`);
    derivedOf.set(node, refs);
  }
  return refs;
}

/** The rules on which a node and what it holds depend, as their canonical text, each once and in their order. */
export function conditionsIn(node: DocNode, derived: DerivedTags = new Map()): string[] {
  const found = new Set<string>();
  const refs = new Set<string>();
  const visit = (one: DocNode) => {
    for (const key of ownKeys(one)) found.add(key);
    if (derived.size > 0) for (const ref of derivedIn(one)) refs.add(ref);
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
