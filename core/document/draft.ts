/** A document while it is being changed: each node is copied once, however many changes there are. */
import { type DocNode, type EmailDocument, type Props, walk } from "./model.ts";
import {
  enter,
  keepStructure,
  leave,
  type Place,
  placeIn,
  positionIn,
  type Structure,
  structureOf,
  wayTo,
} from "./structure.ts";

interface Open {
  id: string;
  type: string;
  props: Props;
  children: DocNode[];
}

/** What can be looked up: a document, or one that is being changed. */
export interface Lookup {
  readonly root: DocNode;
  /** A node with its parent and position, or null where there is no such id. */
  find(id: string): Place | null;
  /** How many nodes there are. */
  readonly size: number;
}

/** The nodes that a draft gives stand until its next change. */
export interface Draft extends Lookup {
  setProps(id: string, props: Props): void;
  /** Puts a node under a parent, at a position among its children. */
  insert(parent: string, index: number, node: DocNode): void;
  /** Takes a node out; gives it. */
  remove(id: string): DocNode;
  /** Puts another tree in the place of all. */
  replace(root: DocNode): void;
  /** The document as it is now; the draft goes on from there. */
  done(): EmailDocument;
}

export function createDraft(doc: EmailDocument): Draft {
  let root = doc.root;
  let structure = structureOf(root);
  let shared = true;
  let owned = new Set<DocNode>();

  const ownStructure = (): Structure => {
    if (shared) structure = new Map(structure);
    shared = false;
    return structure;
  };
  const copy = (node: DocNode): DocNode => {
    if (owned.has(node)) return node;
    const own: DocNode = { ...node, children: node.children.slice() };
    owned.add(own);
    return own;
  };
  /** The node, and all above it, as objects of this draft's own. */
  function open(id: string): Open {
    root = copy(root);
    let node = root;
    for (const next of wayTo(structure, id)!.slice(1)) {
      const index = positionIn(structure, node, next);
      const child = copy(node.children[index]!);
      (node as Open).children[index] = child;
      node = child;
    }
    return node as Open;
  }

  return {
    get root() {
      return root;
    },
    get size() {
      return structure.size;
    },
    find: (id) => placeIn(root, structure, id),
    setProps(id, props) {
      open(id).props = props;
    },
    insert(parent, index, node) {
      open(parent).children.splice(index, 0, node);
      enter(ownStructure(), node, parent, index);
    },
    remove(id) {
      const { node, parent, index } = placeIn(root, structure, id)!;
      open(parent!.id).children.splice(index, 1);
      leave(ownStructure(), node);
      // Whoever holds it now holds it as it is: should it come back, it is copied like any other.
      for (const one of walk(node)) owned.delete(one);
      return node;
    },
    replace(next) {
      root = next;
      structure = structureOf(next);
      shared = true;
      owned = new Set();
    },
    done() {
      if (root === doc.root) return doc;
      keepStructure(root, structure);
      shared = true;
      owned = new Set();
      return { ...doc, root };
    },
  };
}

/** A document to look things up in. */
export const lookupOf = (doc: EmailDocument): Lookup => ({
  root: doc.root,
  get size() {
    return structureOf(doc.root).size;
  },
  find: (id) => placeIn(doc.root, structureOf(doc.root), id),
});
