/** Several blocks put together: into a card, or into a band of their own. */
import { newBlock } from "#core/blocks/style.ts";
import {
  CARD,
  type EmailDocument,
  find,
  holdsBlocks,
  isBlock,
  mayHold,
  parts,
  pathTo,
  type SimpleEdit,
} from "#core/document/index.ts";
import { type Doing, group } from "./doing.ts";
import { newNodeId } from "./ids.ts";
import { emptied, movesInto, putDown } from "./put-down.ts";

const blocksIn = (doc: EmailDocument, ids: readonly string[]) =>
  ids.flatMap((id) => {
    const at = find(doc, id);
    return at?.parent && isBlock(at.node.type) ? [at] : [];
  });

/** A card where the first of the blocks stands, with all of them in it; null where one is a card or stands in one. */
export function intoCard(doc: EmailDocument, ids: readonly string[]): Doing | null {
  const places = blocksIn(doc, ids);
  const [first] = places;
  if (!first || places.length !== ids.length) return null;
  if (places.some(({ node, parent }) => holdsBlocks(node.type) || !mayHold(parent!.type, CARD))) {
    return null;
  }
  const card = { ...newBlock(doc, CARD, newNodeId), children: [] };
  const siblings = first.parent!.children.slice(0, first.index);
  const after = siblings.findLast(({ id }) => !ids.includes(id))?.id ?? null;
  const own = pathTo(doc, first.node.id)[1]!.id;
  const edits: SimpleEdit[] = [
    { type: "insert", parent: first.parent!.id, after, node: card },
    ...movesInto(ids, card.id),
    ...emptied(doc, ids, own),
  ];
  return { edit: group(edits), select: card.id };
}

/** A band after that of the first block, with all of the blocks in it. */
export function intoBand(doc: EmailDocument, ids: readonly string[]): Doing | null {
  const [first] = blocksIn(doc, ids);
  if (!first || blocksIn(doc, ids).length !== ids.length) return null;
  const after = pathTo(doc, first.node.id)[1]!.id;
  const doing = putDown(doc, { kind: "nodes", ids }, { parent: doc.root.id, after });
  const [band] = doing ? parts(doing.edit) : [];
  return doing && band?.type === "insert" ? { ...doing, select: band.node.id } : null;
}
