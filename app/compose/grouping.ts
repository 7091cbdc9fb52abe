/** Several blocks put together: into a card, or into a band of their own. */
import { createBand, createColumn } from "#core/blocks/index.ts";
import { newBlock } from "#core/blocks/style.ts";
import {
  CARD,
  type EmailDocument,
  find,
  isBlock,
  mayHold,
  pathTo,
  type SimpleEdit,
} from "#core/document/index.ts";
import { type Doing, group } from "./doing.ts";
import { newNodeId } from "./ids.ts";
import { emptied } from "./put-down.ts";

const blocksIn = (doc: EmailDocument, ids: readonly string[]) =>
  ids.flatMap((id) => {
    const at = find(doc, id);
    return at?.parent && isBlock(at.node.type) ? [at] : [];
  });

const movesInto = (ids: readonly string[], parent: string): SimpleEdit[] =>
  ids.map((node, i) => ({ type: "move", node, parent, after: ids[i - 1] ?? null }));

/** A card where the first of the blocks stands, with all of them in it; null where one is a card or stands in one. */
export function intoCard(doc: EmailDocument, ids: readonly string[]): Doing | null {
  const places = blocksIn(doc, ids);
  const [first] = places;
  if (!first || places.length !== ids.length) return null;
  if (places.some(({ node, parent }) => node.type === CARD || !mayHold(parent!.type, CARD))) {
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
  const places = blocksIn(doc, ids);
  const [first] = places;
  if (!first || places.length !== ids.length) return null;
  const column = createColumn(newNodeId);
  const band = createBand(newNodeId, [column]);
  const edits: SimpleEdit[] = [
    {
      type: "insert",
      parent: doc.root.id,
      after: pathTo(doc, first.node.id)[1]!.id,
      node: band,
    },
    ...movesInto(ids, column.id),
    ...emptied(doc, ids, null),
  ];
  return { edit: group(edits), select: band.id };
}
