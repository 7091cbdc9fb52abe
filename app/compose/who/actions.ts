/** What is done about who sees what, as edits. */
import {
  type DocNode,
  type EmailDocument,
  find,
  type SimpleEdit,
  withNewIds,
} from "#core/document/index.ts";
import type { Json } from "#core/json.ts";
import type { Rule } from "#core/rules/index.ts";
import type { Seen } from "#core/text/index.ts";
import { type Doing, group } from "../doing/doing.ts";
import { newNodeId } from "../doing/ids.ts";

const seenOf = (node: DocNode) => node.props as unknown as Seen;
const set = (node: string, path: string, value: Json): SimpleEdit => ({
  type: "set",
  node,
  path: [path],
  value,
});

/** Shows a part to those for whom a rule holds; null for everybody. */
export const setSeenBy = (node: DocNode, rule: Rule | null): Doing => ({
  edit: set(node.id, "seenBy", rule),
});

/** Copies keep their rules but not the chains they were copied from: several of one chain make one of their own. */
export function withOwnChains(copies: readonly DocNode[]): DocNode[] {
  const chains = new Map<string, string>();
  const count = (chain: string) => copies.filter((one) => seenOf(one).chain === chain).length;
  return copies.map((copy) => {
    const { chain } = seenOf(copy);
    if (typeof chain !== "string") return copy;
    if (!chains.has(chain)) chains.set(chain, newNodeId());
    const own = count(chain) > 1 ? chains.get(chain)! : null;
    return { ...copy, props: { ...copy.props, chain: own } };
  });
}

/** The alternatives of a chain, in their order; only the node itself where it is in none. */
export function chainOf(doc: EmailDocument, node: DocNode): readonly DocNode[] {
  const { chain } = seenOf(node);
  const siblings = find(doc, node.id)?.parent?.children ?? [];
  return chain === null ? [node] : siblings.filter((one) => seenOf(one).chain === chain);
}

/**
 * Puts an alternative after a part (and those it has): a copy that everybody else sees, or, where there is one
 * for everybody else already, one before that to be given a rule.
 */
export function addAlternative(doc: EmailDocument, id: string): Doing | null {
  const at = find(doc, id);
  if (!at?.parent || !("seenBy" in at.node.props)) return null;
  const { node, parent } = at;
  const chain = seenOf(node).chain ?? newNodeId();
  const members = chainOf(doc, node);
  const last = members.at(-1)!;
  const copy = withNewIds(node, newNodeId);
  const made: DocNode = { ...copy, props: { ...copy.props, seenBy: null, chain } };
  const edits: SimpleEdit[] = [
    ...(seenOf(node).chain === null ? [set(node.id, "chain", chain)] : []),
    { type: "insert", parent: parent.id, after: last.id, node: made },
  ];
  return { edit: group(edits), select: made.id };
}

/** Takes a part out of its chain; where one other is left, that stands alone too. */
export function leaveChain(doc: EmailDocument, node: DocNode): Doing | null {
  const members = chainOf(doc, node);
  const leaving = members.length <= 2 ? members : [node];
  return { edit: group(leaving.map((one) => set(one.id, "chain", null))) };
}
