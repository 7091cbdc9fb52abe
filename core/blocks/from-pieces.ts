/** Blocks made of pieces of foreign text: what is pasted, and what emails from elsewhere say. */
import type { DocNode, EmailDocument } from "../document/index.ts";
import { createItem } from "../kinds/item.ts";
import type { Piece } from "../text/index.ts";
import { newBlock } from "./style.ts";
import { newRow, TABLE_KINDS } from "./table-items.ts";

/** A block for a piece, in the style that an email gives new ones; `more` are properties beside its words. */
export function blockOfPiece(
  doc: EmailDocument,
  piece: Piece,
  newId: () => string,
  more: object = {},
): DocNode {
  switch (piece.kind) {
    case "words":
      return newBlock(doc, "text", newId, { words: piece.words, ...more } as never);
    case "heading": {
      const { level, words } = piece;
      return newBlock(doc, "heading", newId, { level, words, ...more } as never);
    }
    case "table": {
      const { header, rows } = piece;
      const children = [
        ...(rows[0] ?? []).map(() => createItem(TABLE_KINDS.column, newId)),
        ...rows.map((cells) => newRow(newId, cells)),
      ];
      return newBlock(doc, "table", newId, { header, ...more } as never, children);
    }
  }
}
