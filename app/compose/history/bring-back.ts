/** Taking single bands and blocks out of an earlier state of the email. */
import { createBand, createColumn } from "#core/blocks/index.ts";
import {
  type DocNode,
  type EmailDocument,
  find,
  type SimpleEdit,
  walk,
  withNewIds,
} from "#core/document/index.ts";
import { sameJson } from "#core/json.ts";
import { type Doing, group } from "../doing/doing.ts";
import { newNodeId } from "../doing/ids.ts";
import { pieceOf } from "../selection/chosen.ts";

/** The sibling it stood after that is still there, or null for the beginning. */
function stillBefore(parent: DocNode, id: string, now: DocNode): string | null {
  const at = parent.children.findIndex((one) => one.id === id);
  const before = parent.children.slice(0, at);
  return before.findLast((one) => now.children.some((n) => n.id === one.id))?.id ?? null;
}

/**
 * Brings a band or a block back as it was: in the place of what it is now, else where it stood. Gives null
 * where it is the same now.
 */
export function bringBack(now: EmailDocument, earlier: EmailDocument, id: string): Doing | null {
  const piece = pieceOf(earlier, id);
  if (!piece) return null;
  const here = find(now, piece.id);
  if (here && sameJson(here.node as never, piece as never)) return null;
  const replaced = new Set(here ? [...walk(here.node)].map((node) => node.id) : []);
  // What stands elsewhere by now keeps its id there.
  const taken = [...walk(piece)].some((node) => find(now, node.id) && !replaced.has(node.id));
  const node = taken ? withNewIds(piece, newNodeId) : piece;
  if (here?.parent) {
    const after = here.parent.children[here.index - 1]?.id ?? null;
    const edits: SimpleEdit[] = [
      { type: "remove", node: piece.id },
      { type: "insert", parent: here.parent.id, after, node },
    ];
    return { edit: group(edits), select: node.id };
  }
  const then = find(earlier, piece.id)!.parent!;
  const parent = find(now, then.id)?.node;
  if (parent) {
    const after = stillBefore(then, piece.id, parent);
    return { edit: { type: "insert", parent: parent.id, after, node }, select: node.id };
  }
  // Its column or card is gone too: it gets a band of its own, where its band was.
  const band = earlier.root.children.find((one) => [...walk(one)].includes(piece))!;
  const after = stillBefore(earlier.root, band.id, now.root);
  const own = createBand(newNodeId, [createColumn(newNodeId, [node])]);
  return { edit: { type: "insert", parent: now.root.id, after, node: own }, select: node.id };
}
