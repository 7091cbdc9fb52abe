/** Finding nodes by id. A tree never changes, so its index is made once and kept with it. */
import { type DocNode, type EmailDocument, isBlock } from "./model.ts";

export interface Place {
  readonly node: DocNode;
  readonly parent: DocNode | null;
  /** Position among the parent's children. */
  readonly index: number;
}

const indexes = new WeakMap<DocNode, Map<string, Place>>();

function indexOf(root: DocNode): Map<string, Place> {
  let index = indexes.get(root);
  if (!index) {
    index = new Map();
    const visit = (node: DocNode, parent: DocNode | null, at: number) => {
      index!.set(node.id, { node, parent, index: at });
      for (const [i, child] of node.children.entries()) visit(child, node, i);
    };
    visit(root, null, 0);
    indexes.set(root, index);
  }
  return index;
}

/** The place of a node, or null when the document has no such id. */
export function find(doc: EmailDocument, id: string): Place | null {
  return indexOf(doc.root).get(id) ?? null;
}

/** The nodes from the email down to the one named, or an empty list. */
export function pathTo(doc: EmailDocument, id: string): DocNode[] {
  const path: DocNode[] = [];
  for (let place = find(doc, id); place; place = place.parent && find(doc, place.parent.id)) {
    path.unshift(place.node);
  }
  return path;
}

/** Every node, top to bottom, parents before children. */
export function* walk(node: DocNode): Generator<DocNode> {
  yield node;
  for (const child of node.children) yield* walk(child);
}

/** The node with every id in it made anew, for a copy that goes into the same document. */
export function withNewIds(node: DocNode, newId: () => string): DocNode {
  return {
    ...node,
    id: newId(),
    children: node.children.map((child) => withNewIds(child, newId)),
  };
}

/** A copy of the tree with one node replaced; everything not above it keeps its identity. */
export function replaceNode(
  doc: EmailDocument,
  id: string,
  change: (node: DocNode) => DocNode,
): EmailDocument {
  const place = find(doc, id);
  if (!place) return doc;
  let node = change(place.node);
  let above = place;
  while (above.parent) {
    const parent = find(doc, above.parent.id)!;
    const children = parent.node.children.slice();
    children[above.index] = node;
    node = { ...parent.node, children };
    above = parent;
  }
  return { ...doc, root: node };
}

/** The innermost block that a node is or stands in, or null: an item's block, a block itself. */
export const blockOf = (doc: EmailDocument, id: string): DocNode | null =>
  pathTo(doc, id).findLast((node) => isBlock(node.type)) ?? null;

/** The block of a column that a node is or stands in: what is rendered as one element. */
export const outerBlockOf = (doc: EmailDocument, id: string): DocNode | null =>
  pathTo(doc, id).find((node) => isBlock(node.type)) ?? null;
