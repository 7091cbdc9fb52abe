import { z } from "zod";
import { LIMITS } from "../../limits.ts";
import type { Lookup } from "../draft.ts";
import { type DocNode, idSchema, mayHold, nodeSchema, walk } from "../model.ts";
import { Clash, EditError, type EditKind, nearestSibling, nodeHoldsWords } from "./edit.ts";

export const insertSchema = z.strictObject({
  type: z.literal("insert"),
  parent: idSchema,
  /** The sibling it comes after; null puts it first. */
  after: idSchema.nullable(),
  node: nodeSchema,
});
export type Insert = z.infer<typeof insertSchema>;

/**
 * The position for a node of a type under a parent after a sibling. Throws an EditError where it may not stand
 * there; `leaving` is the node itself where it only changes its place.
 */
export function positionFor(
  doc: Lookup,
  { parent, after }: { readonly parent: string; readonly after: string | null },
  type: string,
  leaving: string | null = null,
): number {
  const holder = doc.find(parent)?.node;
  if (!holder) throw new EditError("missing", "The place for this is gone.");
  if (!mayHold(holder.type, type)) {
    throw new EditError("misplaced", `A ${type} cannot stand in a ${holder.type}.`);
  }
  const own = leaving === null ? null : doc.find(leaving);
  const here = own?.parent?.id === parent ? own.index : null;
  const others = holder.children.length - (here === null ? 0 : 1);
  if (type === "column" && others >= LIMITS.columnsPerBand) {
    throw new EditError("limit", `A band holds at most ${LIMITS.columnsPerBand} columns.`);
  }
  if (after === null) return 0;
  const sibling = doc.find(after);
  if (sibling?.parent?.id !== parent) {
    throw new EditError("missing", "The place for this is gone.");
  }
  return sibling.index + (here !== null && here < sibling.index ? 0 : 1);
}

function checkShape(node: DocNode): void {
  for (const child of node.children) {
    if (!mayHold(node.type, child.type)) {
      throw new EditError("misplaced", `A ${child.type} cannot stand in a ${node.type}.`);
    }
    checkShape(child);
  }
  if (node.type === "band" && node.children.length > LIMITS.columnsPerBand) {
    throw new EditError("limit", `A band holds at most ${LIMITS.columnsPerBand} columns.`);
  }
}

/**
 * Checks a tree that comes from outside: what stands in what, ids that are its own, and how large the email
 * would be with it. `others` is the document it comes into; null where it takes its place.
 */
export function checkTree(node: DocNode, others: Lookup | null): void {
  checkShape(node);
  const seen = new Set<string>();
  for (const { id } of walk(node)) {
    if (seen.has(id) || others?.find(id)) {
      throw new EditError("duplicate", "This is already in the email.");
    }
    seen.add(id);
  }
  if (seen.size + (others?.size ?? 0) > LIMITS.nodesPerDocument) {
    throw new EditError("limit", `An email holds at most ${LIMITS.nodesPerDocument} pieces.`);
  }
}

/** Words for which there is no place any more are shown to the person; anything else goes. */
const lost = (node: DocNode) =>
  nodeHoldsWords(node) ? new Clash({ node: node.id, path: null }) : null;

export const insert: EditKind<Insert> = {
  schema: insertSchema,
  apply(draft, edit) {
    checkTree(edit.node, draft);
    draft.insert(edit.parent, positionFor(draft, edit, edit.node.type), edit.node);
  },
  invert: (_doc, edit) => ({ type: "remove", node: edit.node.id }),
  over(edit, past) {
    if (past.now.find(edit.node.id)) return null;
    if (!past.now.find(edit.parent)) return lost(edit.node);
    return { ...edit, after: nearestSibling(past, edit.parent, edit.after) };
  },
  touches: (edit) => [...walk(edit.node)].map(({ id }) => ({ node: id, path: null })),
};
