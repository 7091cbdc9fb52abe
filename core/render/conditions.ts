/** The conditions in a document: the rules of its parts and of words in them. Kept per node: nodes never change. */
import {
  type DerivedTags,
  derivedBehind,
  derivedConditions,
  derivedNamedIn,
} from "../derived/index.ts";
import type { DocNode, EmailDocument } from "../document/index.ts";
import { isJsonObject, type Json } from "../json.ts";
import { EVERYBODY_KEY, ruleKey, type Seen } from "../text/index.ts";

const own = new WeakMap<DocNode, readonly string[]>();

/** What a part adds: its rule; as the last of a chain without one, that it takes everybody. */
function* keysOf({ seenBy, chain }: Partial<Seen>): Generator<string> {
  if (seenBy) yield ruleKey(seenBy);
  else if (typeof chain === "string") yield EVERYBODY_KEY;
}

function* keysInText(value: Json): Generator<string> {
  if (Array.isArray(value)) {
    for (const inner of value) yield* keysInText(inner);
  } else if (isJsonObject(value)) {
    if (value.type === "who" && isJsonObject(value.attrs)) {
      yield* keysOf(value.attrs as unknown as Seen);
      return;
    }
    for (const [name, inner] of Object.entries(value)) {
      if (name !== "seenBy" && typeof inner === "object") yield* keysInText(inner);
    }
  }
}

function ownKeys(node: DocNode): readonly string[] {
  let keys = own.get(node);
  if (!keys) {
    keys = [...new Set([...keysOf(node.props as Partial<Seen>), ...keysInText(node.props)])];
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
