import { z } from "zod";
import { LIMITS } from "../../limits.ts";
import { find, replaceNode, walk } from "../lookup.ts";
import { type DocNode, type EmailDocument, idSchema, mayHold, nodeSchema } from "../model.ts";
import { EditError, type EditKind } from "./edit.ts";

export const insertSchema = z.strictObject({
  type: z.literal("insert"),
  parent: idSchema,
  /** The sibling it comes after; null puts it first. */
  after: idSchema.nullable(),
  node: nodeSchema,
});
export type Insert = z.infer<typeof insertSchema>;

/** Puts a node under a parent after a sibling; checks that it may stand there. */
export function place(
  doc: EmailDocument,
  parentId: string,
  after: string | null,
  node: DocNode,
): EmailDocument {
  const parent = find(doc, parentId)?.node;
  if (!parent) throw new EditError("missing", "The place for this is gone.");
  if (!mayHold(parent.type, node.type)) {
    throw new EditError("misplaced", `A ${node.type} cannot stand in a ${parent.type}.`);
  }
  if (node.type === "column" && parent.children.length >= LIMITS.columnsPerBand) {
    throw new EditError("limit", `A band holds at most ${LIMITS.columnsPerBand} columns.`);
  }
  const at = after === null ? 0 : parent.children.findIndex((child) => child.id === after) + 1;
  if (after !== null && at === 0) throw new EditError("missing", "The place for this is gone.");
  return replaceNode(doc, parentId, (p) => ({
    ...p,
    children: [...p.children.slice(0, at), node, ...p.children.slice(at)],
  }));
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
export function checkTree(node: DocNode, others: EmailDocument | null): void {
  checkShape(node);
  const seen = new Set<string>();
  for (const { id } of walk(node)) {
    if (seen.has(id) || (others && find(others, id))) {
      throw new EditError("duplicate", "This is already in the email.");
    }
    seen.add(id);
  }
  let total = seen.size;
  for (const _ of others ? walk(others.root) : []) total++;
  if (total > LIMITS.nodesPerDocument) {
    throw new EditError("limit", `An email holds at most ${LIMITS.nodesPerDocument} pieces.`);
  }
}

export const insert: EditKind<Insert> = {
  schema: insertSchema,
  apply(doc, edit) {
    checkTree(edit.node, doc);
    return place(doc, edit.parent, edit.after, edit.node);
  },
  invert: (_doc, edit) => ({ type: "remove", node: edit.node.id }),
  touches: (edit) => [{ node: edit.node.id, path: null }],
};
