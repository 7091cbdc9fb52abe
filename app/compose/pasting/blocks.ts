/** Blocks made from what comes from elsewhere: pieces of foreign HTML, pictures, addresses. */
import { blockOfPiece } from "#core/blocks/from-pieces.ts";
import { newBlock } from "#core/blocks/style.ts";
import type { DocNode, EmailDocument } from "#core/document/index.ts";
import type { Picture } from "#core/kinds/kind.ts";
import { type Link, line, type Piece, doc as paragraphs, type TextJson } from "#core/text/index.ts";
import { newNodeId } from "../doing/ids.ts";

/** A block for each piece. */
export const blocksFrom = (doc: EmailDocument, pieces: readonly Piece[]): DocNode[] =>
  pieces.map((piece) => blockOfPiece(doc, piece, newNodeId));

/** A text block like another, with other words; its translations are of the other. */
export function textLike(block: DocNode, words: TextJson): DocNode {
  const { tr: _, ...props } = block.props;
  return { ...block, id: newNodeId(), props: { ...props, words: words as never } };
}

/** An image of a picture, with what the library says that it shows; where that says nothing, the proof asks. */
export const imageOf = (doc: EmailDocument, { id, alt, decorative }: Picture): DocNode =>
  newBlock(doc, "image", newNodeId, {
    picture: id,
    alt: alt ? line(alt) : line(),
    decorative: decorative ?? false,
  });

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
