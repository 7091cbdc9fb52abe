/**
 * Finding nodes by id. What stands under what is kept apart from the trees: it stays the same while only
 * properties change, so that a change of words costs no new index.
 */
import { type DocNode, type EmailDocument, isBlock } from "./model.ts";
import { type Place, placeIn, structureOf } from "./structure.ts";

export type { Place } from "./structure.ts";

/** The place of a node, or null when the document has no such id. */
export const find = (doc: EmailDocument, id: string): Place | null =>
  placeIn(doc.root, structureOf(doc.root), id);

/** The nodes from the email down to the one named, or an empty list. */
export function pathTo(doc: EmailDocument, id: string): DocNode[] {
  const path: DocNode[] = [];
  for (let place = find(doc, id); place; place = place.parent && find(doc, place.parent.id)) {
    path.unshift(place.node);
  }
  return path;
}

/** The node with every id in it made anew, for a copy that goes into the same document. */
export function withNewIds(node: DocNode, newId: () => string): DocNode {
  return {
    ...node,
    id: newId(),
    children: node.children.map((child) => withNewIds(child, newId)),
  };
}

/** The innermost block that a node is or stands in, or null: an item's block, a block itself. */
export const blockOf = (doc: EmailDocument, id: string): DocNode | null =>
  pathTo(doc, id).findLast((node) => isBlock(node.type)) ?? null;

/** The block of a column that a node is or stands in: what is rendered as one element. */
export const outerBlockOf = (doc: EmailDocument, id: string): DocNode | null =>
  pathTo(doc, id).find((node) => isBlock(node.type)) ?? null;
