/** Blocks made from what comes from elsewhere: pieces of foreign HTML, pictures, addresses. */
import { createBlock } from "#core/blocks/index.ts";
import { newRow, TABLE_KINDS } from "#core/blocks/table-items.ts";
import type { DocNode } from "#core/document/index.ts";
import { createItem } from "#core/kinds/item.ts";
import type { Picture } from "#core/kinds/kind.ts";
import { doc, type Link, line, type Piece, type TextJson } from "#core/text/index.ts";
import { newNodeId } from "../ids.ts";

function tableBlock({ header, rows }: Piece & { kind: "table" }): DocNode {
  const children = [
    ...(rows[0] ?? []).map(() => createItem(TABLE_KINDS.column, newNodeId)),
    ...rows.map((cells) => newRow(newNodeId, cells)),
  ];
  return createBlock("table", newNodeId, { header }, children);
}

/** A block for each piece. */
export const blocksFrom = (pieces: readonly Piece[]): DocNode[] =>
  pieces.map((piece) => {
    if (piece.kind === "table") return tableBlock(piece);
    if (piece.kind === "words") return createBlock("text", newNodeId, { words: piece.words });
    const { level, words } = piece;
    return createBlock("heading", newNodeId, { level, words });
  });

/** An image of a picture; its alt text is left for the person, and the proof asks for it. */
export const imageOf = (picture: Picture): DocNode =>
  createBlock("image", newNodeId, { picture: picture.id, alt: line() });

/** A text that is one link, with the address as its words. */
export function linkText(address: string, to: Link): DocNode {
  const words: TextJson = {
    type: "paragraph",
    content: [
      {
        type: "text",
        text: address.replace(/^https?:\/\//i, "").replace(/\/$/, ""),
        marks: [{ type: "link", attrs: { to: to as never } }],
      },
    ],
  };
  return createBlock("text", newNodeId, { words: doc(words) });
}
