/** What stands under what in a tree, by id: shared by all trees that differ in properties alone. */
import type { DocNode } from "./model.ts";

export interface Place {
  readonly node: DocNode;
  readonly parent: DocNode | null;
  /** Position among the parent's children. */
  readonly index: number;
}

interface Entry {
  readonly parent: string | null;
  /** Where it stood among its parent's children when last looked for: a hint, not the truth. */
  at: number;
}
export type Structure = Map<string, Entry>;

const structures = new WeakMap<DocNode, Structure>();

/** Adds a node and all it holds to a structure. Of two nodes of one id, which only a damaged tree has, the first counts. */
export function enter(
  structure: Structure,
  node: DocNode,
  parent: string | null,
  at: number,
): void {
  if (!structure.has(node.id)) structure.set(node.id, { parent, at });
  for (const [i, child] of node.children.entries()) enter(structure, child, node.id, i);
}

/** Takes a node and all it holds out of a structure. */
export function leave(structure: Structure, node: DocNode): void {
  structure.delete(node.id);
  for (const child of node.children) leave(structure, child);
}

/** The structure of a tree, made where it is not known yet. */
export function structureOf(root: DocNode): Structure {
  let structure = structures.get(root);
  if (!structure) {
    structure = new Map();
    enter(structure, root, null, 0);
    structures.set(root, structure);
  }
  return structure;
}

/** Says that a tree has a structure that is known already. */
export const keepStructure = (root: DocNode, structure: Structure): void => {
  structures.set(root, structure);
};

/** The ids from the root down to a node, or null where there is no such node. */
export function wayTo(structure: Structure, id: string): string[] | null {
  const way: string[] = [];
  for (let at: string | null = id; at !== null; ) {
    const entry: Entry | undefined = structure.get(at);
    if (!entry) return null;
    way.push(at);
    at = entry.parent;
  }
  return way.reverse();
}

/** The position of a child, by its hint where that is right. */
export function positionIn(structure: Structure, parent: DocNode, id: string): number {
  const entry = structure.get(id)!;
  if (parent.children[entry.at]?.id !== id) {
    entry.at = parent.children.findIndex((child) => child.id === id);
  }
  return entry.at;
}

/** A node with its parent and its position there, or null. */
export function placeIn(root: DocNode, structure: Structure, id: string): Place | null {
  const way = wayTo(structure, id);
  if (!way) return null;
  let node = root;
  let parent: DocNode | null = null;
  let index = 0;
  for (const next of way.slice(1)) {
    index = positionIn(structure, node, next);
    const child = node.children[index];
    if (!child) return null;
    parent = node;
    node = child;
  }
  return { node, parent, index };
}
