/** Blocks made from what comes from elsewhere: pieces of foreign HTML, pictures, addresses. */
import { newBlock } from "#core/blocks/style.ts";
import { newRow, TABLE_KINDS } from "#core/blocks/table-items.ts";
import type { DocNode, EmailDocument } from "#core/document/index.ts";
import { createItem } from "#core/kinds/item.ts";
import type { Picture } from "#core/kinds/kind.ts";
import { type Link, line, type Piece, doc as paragraphs, type TextJson } from "#core/text/index.ts";
import { newNodeId } from "../doing/ids.ts";

function tableBlock(doc: EmailDocument, { header, rows }: Piece & { kind: "table" }): DocNode {
  const children = [
    ...(rows[0] ?? []).map(() => createItem(TABLE_KINDS.column, newNodeId)),
    ...rows.map((cells) => newRow(newNodeId, cells)),
  ];
  return newBlock(doc, "table", newNodeId, { header }, children);
}

/** A block for each piece. */
export const blocksFrom = (doc: EmailDocument, pieces: readonly Piece[]): DocNode[] =>
  pieces.map((piece) => {
    if (piece.kind === "table") return tableBlock(doc, piece);
    if (piece.kind === "words") return newBlock(doc, "text", newNodeId, { words: piece.words });
    const { level, words } = piece;
    return newBlock(doc, "heading", newNodeId, { level, words });
  });

/** A text block like another, with other words; its translations are of the other. */
export function textLike(block: DocNode, words: TextJson): DocNode {
  const { tr: _, ...props } = block.props;
  return { ...block, id: newNodeId(), props: { ...props, words: words as never } };
}

/** An image of a picture; its alt text is left for the person, and the proof asks for it. */
export const imageOf = (doc: EmailDocument, picture: Picture): DocNode =>
  newBlock(doc, "image", newNodeId, { picture: picture.id, alt: line() });

/** A text that is one link, with the address as its words. */
export function linkText(doc: EmailDocument, address: string, to: Link): DocNode {
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
  return newBlock(doc, "text", newNodeId, { words: paragraphs(words) });
}
