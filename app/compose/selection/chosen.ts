/** Several pieces chosen at once: all bands, or all blocks of which none stands in another. */
import {
  type DocNode,
  type EmailDocument,
  find,
  holdsBlocks,
  isBlock,
  pathTo,
  walk,
} from "#core/document/index.ts";

const isPiece = (node: DocNode) => node.type === "band" || isBlock(node.type);

/** The piece a node is or stands in, or null for the email itself. */
export const pieceOf = (doc: EmailDocument, id: string): DocNode | null =>
  pathTo(doc, id).findLast(isPiece) ?? null;

/** The pieces in the order they stand, without those that stand in others of them. */
function inOrder(doc: EmailDocument, ids: ReadonlySet<string>): string[] {
  const out: string[] = [];
  const visit = (node: DocNode) => {
    if (ids.has(node.id)) out.push(node.id);
    else for (const child of node.children) visit(child);
  };
  visit(doc.root);
  return out;
}

const sameLevel = (a: DocNode, b: DocNode) => (a.type === "band") === (b.type === "band");

/** The pieces with one more, or without it where it was chosen. One of another level begins anew. */
export function toggled(doc: EmailDocument, chosen: readonly string[], id: string): string[] {
  const piece = pieceOf(doc, id);
  if (!piece) return [...chosen];
  const first = chosen[0] ? find(doc, chosen[0])?.node : undefined;
  if (!first || !isPiece(first) || !sameLevel(first, piece)) return [piece.id];
  const ids = new Set(chosen);
  if (ids.has(piece.id)) ids.delete(piece.id);
  else {
    // What is chosen last counts: a card instead of what is in it, or the other way round.
    for (const { id: inner } of walk(piece)) ids.delete(inner);
    for (const { id: outer } of pathTo(doc, piece.id)) ids.delete(outer);
    ids.add(piece.id);
  }
  return inOrder(doc, ids);
}

/** The pieces from one to another, as they stand: bands, or blocks, by what the first is. */
export function range(doc: EmailDocument, from: string, to: string): string[] {
  const first = pieceOf(doc, from);
  if (!first) return [to];
  const level = first.type === "band" ? "band" : "block";
  const line: string[] = [];
  const inCard = (id: string) => holdsBlocks(pathTo(doc, id).at(-2)?.type ?? "");
  const deep = inCard(first.id) && pathTo(doc, to).includes(pathTo(doc, first.id).at(-2)!);
  const visit = (node: DocNode) => {
    const mine = level === "band" ? node.type === "band" : isBlock(node.type);
    if (mine && !(deep && holdsBlocks(node.type))) line.push(node.id);
    else for (const child of node.children) visit(child);
  };
  visit(doc.root);
  const place = (id: string) => {
    const path = new Set(pathTo(doc, id).map((node) => node.id));
    return line.findIndex((one) => path.has(one));
  };
  const inside = (id: string) => (level === "band" ? (pathTo(doc, id)[1]?.id ?? id) : id);
  const [a, b] = [place(first.id), place(inside(to))];
  if (a < 0 || b < 0) return [to];
  return line.slice(Math.min(a, b), Math.max(a, b) + 1);
}

/** The pieces that are still there. */
export const standing = (doc: EmailDocument, ids: readonly string[]): readonly string[] =>
  ids.every((id) => find(doc, id)) ? ids : ids.filter((id) => find(doc, id));
