/** Pieces that foreign text falls into, and plain text as such pieces. */
import { LIMITS } from "../limits.ts";
import { docOf, ranked } from "./gather.ts";
import type { TextJson } from "./schema.ts";

export type Piece =
  | { readonly kind: "words"; readonly words: TextJson }
  | { readonly kind: "heading"; readonly level: 1 | 2 | 3; readonly words: TextJson }
  | { readonly kind: "table"; readonly header: boolean; readonly rows: readonly TextJson[][] };

/** Plain text as a piece of words: an empty line begins a paragraph, other line ends are blanks. */
export function wordsFromPlain(text: string): TextJson {
  const parts = text
    .slice(0, LIMITS.pasteText)
    .split(/\r?\n(?:[ \t]*\r?\n)+/)
    .map((part) => part.replace(/\s+/g, " ").trim())
    .filter((part) => part !== "");
  return docOf(
    parts.map((part) => ({ type: "paragraph", content: [{ type: "text", text: part }] })),
  );
}

/** A table as plain text: rows on lines, cells between tabs; null for anything else. */
export function tableFromPlain(text: string): Piece | null {
  const lines = text.replace(/\r\n/g, "\n").replace(/\n+$/, "").split("\n");
  const rows = lines.map((one) => one.split("\t"));
  const width = Math.max(...rows.map((row) => row.length));
  if (width < 2 || width > LIMITS.tableColumns || rows.length > LIMITS.tableRows) return null;
  if (!rows.every((row) => row.length === width)) return null;
  return {
    kind: "table",
    header: false,
    rows: rows.map((row) => row.map((cell) => wordsFromPlain(cell))),
  };
}

/** Pieces as one text: headings as strong paragraphs; tables are left out. */
export function textOfPieces(pieces: readonly Piece[]): TextJson {
  const strong = (part: TextJson): TextJson =>
    part.type === "text"
      ? { ...part, marks: ranked([...(part.marks ?? []), { type: "strong" }]) }
      : part;
  return docOf(
    pieces.flatMap((piece): TextJson[] => {
      if (piece.kind === "table") return [];
      if (piece.kind === "words") return [...(piece.words.content ?? [])];
      return [{ type: "paragraph", content: (piece.words.content ?? []).map(strong) }];
    }),
  );
}
