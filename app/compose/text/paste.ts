/** What a paste puts into a text, and what it leaves for the email around it. */
import { Fragment, Node as ProseNode, Slice } from "prosemirror-model";
import type { EditorState, Transaction } from "prosemirror-state";
import { LIMITS } from "#core/limits.ts";
import { piecesFromHtml } from "#core/text/from-html.ts";
import {
  linkFrom,
  type Piece,
  type TextJson,
  type TextKind,
  tableFromPlain,
  textOfPieces,
  textSchema,
  wordsFromPlain,
} from "#core/text/index.ts";
import { pictureFiles } from "../../ui/upload.ts";

export interface PastedText {
  /** The change of the text; null where nothing goes into it. */
  readonly change: Transaction | null;
  /** Tables and pictures, which stand beside a text and not in it; and what of the text comes after them. */
  readonly beside: {
    readonly tables: readonly Piece[];
    readonly files: readonly File[];
    readonly rest?: TextJson | null;
  };
  /** It was longer than may be pasted at once. */
  readonly cut: boolean;
}

const NONE = { tables: [], files: [] };

/** Paragraphs as one: with their marks, a blank between them. */
function inOneLine(text: TextJson): TextJson[] {
  const out: TextJson[] = [];
  const visit = (node: TextJson) => {
    if (node.type === "text" || node.type === "tag") out.push(node);
    else if (node.type === "hard_break") out.push({ type: "text", text: " " });
    else {
      if (node.type === "paragraph" && out.length) out.push({ type: "text", text: " " });
      node.content?.forEach(visit);
    }
  };
  visit(text);
  return out;
}

/** A slice that fits a kind of text; `room` is how many more characters a line can take. */
function sliceOf(text: TextJson, kind: TextKind, room: number): Slice {
  if (kind === "doc") {
    return new Slice(ProseNode.fromJSON(textSchema, text).content, 1, 1);
  }
  const parts = inOneLine(text);
  const inline = kind === "phrase" ? parts : parts.map(({ marks: _marks, ...part }) => part);
  const nodes = inline.map((part) => ProseNode.fromJSON(textSchema, part));
  const content = Fragment.fromArray(nodes);
  return new Slice(content.cut(0, Math.max(0, Math.min(content.size, room))), 0, 0);
}

/** An open end joins what is pasted to the words around it; a list or a set-in part does not join. */
function openEnds(slice: Slice): Slice {
  const ends = [slice.content.firstChild, slice.content.lastChild].map((node) =>
    node?.type.name === "paragraph" ? 1 : 0,
  );
  return new Slice(slice.content, ends[0]!, ends[1]!);
}

/** Ends a text at a place: what comes after it is taken out of it, and given. */
function endAt(change: Transaction, at: number): TextJson | null {
  const { doc } = change;
  if (doc.textBetween(at, doc.content.size, " ", "x").trim() === "") return null;
  const rest = doc.cut(at);
  const first = rest.firstChild;
  // Where the rest begins with nothing, nothing of it is kept.
  const kept =
    first && first.content.size === 0 ? doc.copy(rest.content.cut(first.nodeSize)) : rest;
  change.delete(at, doc.content.size);
  return kept.toJSON() as TextJson;
}

/** `splits`: a table in the middle of the text parts it in two. */
export function pasteInto(
  state: EditorState,
  kind: TextKind,
  clipboard: Pick<DataTransfer, "getData" | "files">,
  splits = false,
): PastedText {
  const plain = clipboard.getData("text/plain");
  const html = clipboard.getData("text/html");
  const files = kind === "line" ? [] : pictureFiles(clipboard);
  if (files.length && !html) return { change: null, beside: { tables: [], files }, cut: false };
  const room = LIMITS.lineLength - state.doc.textContent.length;
  const put = (slice: Slice) => state.tr.replaceSelection(slice).scrollIntoView();

  const link = kind === "line" || /\s/.test(plain.trim()) ? null : linkFrom(plain);
  if (link) {
    const mark = textSchema.marks.link!.create({ to: link });
    const { from, to, empty } = state.selection;
    if (!empty) return { change: state.tr.addMark(from, to, mark), beside: NONE, cut: false };
    const words = textSchema.text(plain.trim(), [...state.selection.$from.marks(), mark]);
    return { change: put(new Slice(Fragment.from(words), 0, 0)), beside: NONE, cut: false };
  }
  const { pieces, cut } = html ? piecesFromHtml(html) : { pieces: [], cut: false };
  const table = html || kind === "line" ? null : tableFromPlain(plain);
  const tables = table ? [table] : pieces.filter((piece) => piece.kind === "table");
  const written = pieces.filter((piece) => piece.kind !== "table");
  if (tables.length && kind !== "line" && written.length === 0) {
    if (!splits) return { change: null, beside: { tables, files: [] }, cut };
    const change = state.tr.deleteSelection();
    const rest = endAt(change, change.selection.from);
    return { change: change.docChanged ? change : null, beside: { tables, files: [], rest }, cut };
  }
  const text = written.length && kind !== "line" ? textOfPieces(written) : wordsFromPlain(plain);
  const slice = sliceOf(text, kind, kind === "line" ? room : Number.POSITIVE_INFINITY);
  const change = put(kind === "doc" ? openEnds(slice) : slice);
  if (kind === "line") return { change, beside: NONE, cut };
  const rest = splits && tables.length ? endAt(change, change.selection.to) : null;
  return { change, beside: { tables, files: [], rest }, cut };
}
