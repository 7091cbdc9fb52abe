/**
 * Foreign HTML (a word processor, a page, a spreadsheet) as pieces of our own: words, headings, tables.
 * Structure, bold, italic, raised and lowered words and links stay; every other styling is dropped, and
 * nothing of the HTML itself is kept. The parser follows the WHATWG tokenisation as htmlparser2 has it.
 */
import { Parser } from "htmlparser2";
import { sameJson } from "../json.ts";
import { LIMITS } from "../limits.ts";
import { linkFrom } from "./link.ts";
import { parseText, type TextJson } from "./schema.ts";

export type Piece =
  | { readonly kind: "words"; readonly words: TextJson }
  | { readonly kind: "heading"; readonly level: 1 | 2 | 3; readonly words: TextJson }
  | { readonly kind: "table"; readonly header: boolean; readonly rows: readonly TextJson[][] };

export interface Pieces {
  readonly pieces: readonly Piece[];
  /** There was more than may be taken in at once; the rest was left out. */
  readonly cut: boolean;
}

type MarkJson = NonNullable<TextJson["marks"]>[number];
/** The order marks have in the schema. */
const RANK = ["link", "strong", "em", "underline", "superscript", "subscript"];

const SILENT = new Set(
  "script style head title noscript template svg math iframe object".split(" "),
);
const BLOCKS = new Set(
  "p div section article header footer main aside figure figcaption address pre dl dt dd center form hr".split(
    " ",
  ),
);
const MARKS: Record<string, string> = {
  b: "strong",
  strong: "strong",
  i: "em",
  em: "em",
  cite: "em",
  u: "underline",
  ins: "underline",
  sup: "superscript",
  sub: "subscript",
};

/** Marks that an element's style asks for, and `strong` where it takes the weight of its tag away. */
function styleMarks(style: string): { on: string[]; off: string[] } {
  const has = (pattern: RegExp) => pattern.test(style);
  const on: string[] = [];
  if (has(/font-weight\s*:\s*(bold|[6-9]00)/i)) on.push("strong");
  if (has(/font-style\s*:\s*italic/i)) on.push("em");
  if (has(/vertical-align\s*:\s*super/i)) on.push("superscript");
  if (has(/vertical-align\s*:\s*sub(?!s)/i)) on.push("subscript");
  return { on, off: has(/font-weight\s*:\s*(normal|[1-4]00)/i) ? ["strong"] : [] };
}

/** Something that is being filled: a list, an item, a set-in part, or the whole. */
interface Holder {
  readonly type: "doc" | "bullet_list" | "ordered_list" | "list_item" | "indented";
  readonly content: TextJson[];
}

/** Puts words together into paragraphs and lists. */
class Words {
  private holders: Holder[] = [{ type: "doc", content: [] }];
  private inline: TextJson[] = [];

  text(text: string, marks: readonly MarkJson[]): void {
    const last = this.inline.at(-1);
    const opens = !last || last.type === "hard_break" || last.text?.endsWith(" ");
    const words = opens ? text.replace(/^ /, "") : text;
    if (!words) return;
    const before = last?.type === "text" && sameJson((last.marks ?? []) as never, marks as never);
    if (before) this.inline[this.inline.length - 1] = { ...last, text: `${last.text}${words}` };
    else this.inline.push({ type: "text", text: words, ...(marks.length ? { marks } : {}) });
  }
  lineBreak(): void {
    if (this.inline.length) this.inline.push({ type: "hard_break" });
  }
  /** The words gathered so far, without blanks and breaks at their end. */
  takeInline(): TextJson[] {
    const inline = this.inline;
    this.inline = [];
    for (let last = inline.at(-1); last; last = inline.at(-1)) {
      const text = last.text?.trimEnd();
      inline.pop();
      if (text) {
        inline.push({ ...last, text });
        break;
      }
    }
    return inline;
  }
  endParagraph(): void {
    const content = this.takeInline();
    if (content.length) this.put({ type: "paragraph", content });
  }
  put(node: TextJson): void {
    const holder = this.holders.at(-1)!;
    const list = holder.type === "bullet_list" || holder.type === "ordered_list";
    const last = holder.content.at(-1);
    if (list && node.type !== "list_item") {
      if (node.type !== "paragraph" && last) {
        const content = itemContent([...(last.content ?? []), node]);
        holder.content[holder.content.length - 1] = { ...last, content };
      } else holder.content.push({ type: "list_item", content: itemContent([node]) });
    } else if (!list && node.type === "list_item") {
      holder.content.push({ type: "bullet_list", content: [node] });
    } else holder.content.push(node);
  }
  open(type: Holder["type"]): void {
    this.endParagraph();
    this.holders.push({ type, content: [] });
  }
  close(type: Holder["type"]): void {
    this.endParagraph();
    const at = this.holders.findLastIndex((holder) => holder.type === type);
    if (at <= 0) return;
    while (this.holders.length > at) {
      const { type: own, content } = this.holders.pop()!;
      if (content.length === 0) continue;
      this.put({ type: own, content: own === "list_item" ? itemContent(content) : content });
    }
  }
  /** Whether words stand on the outermost level. */
  get flat(): boolean {
    return this.holders.length === 1;
  }
  finish(): TextJson[] {
    this.endParagraph();
    while (this.holders.length > 1) this.close(this.holders[1]!.type);
    return this.holders[0]!.content.splice(0);
  }
}

/** An item begins with a paragraph and holds nothing that is set in. */
function itemContent(content: readonly TextJson[]): TextJson[] {
  const flat = content.flatMap((node) =>
    node.type === "indented" || node.type === "list_item"
      ? itemContent(node.content ?? [])
      : [node],
  );
  return flat[0]?.type === "paragraph" ? flat : [{ type: "paragraph" }, ...flat];
}

interface TableDraft {
  readonly rows: { cells: TextJson[]; header: boolean }[];
}

const docOf = (content: readonly TextJson[]): TextJson =>
  parseText(
    { type: "doc", content: content.length ? content : [{ type: "paragraph" }] },
    "doc",
  ).toJSON();

/** Paragraphs that some word processors mark as items of a list instead of making one. */
const LISTED = /mso-list\s*:[^;]*level(\d)/i;
const BULLET = /^\s*(?:([0-9]{1,3}|[a-z])[.)]|[·•▪◦o§–-])\s+/i;

/** Reads HTML into pieces; what is not understood is passed over. */
export function piecesFromHtml(html: string): Pieces {
  const pieces: Piece[] = [];
  let words = new Words();
  let kept: TextJson[] = [];
  let silent = 0;
  let characters = 0;
  let cut = false;
  let heading: number | null = null;
  let listed: number | null = null;
  /** A table being read, the words around it, and how deep tables stand in tables. */
  let table: { draft: TableDraft; outer: Words; depth: number; inCell: boolean } | null = null;
  const marks: { tag: string; on: MarkJson[]; off: string[] }[] = [];

  const current = (): MarkJson[] => {
    const active = new Map<string, MarkJson>();
    for (const { on, off } of marks) {
      for (const type of off) active.delete(type);
      for (const mark of on) active.set(mark.type, mark);
    }
    if (active.has("superscript")) active.delete("subscript");
    return [...active.values()].sort((a, b) => RANK.indexOf(a.type) - RANK.indexOf(b.type));
  };
  const endWords = () => {
    kept.push(...words.finish());
    if (kept.length) pieces.push({ kind: "words", words: docOf(kept) });
    kept = [];
  };
  const endHeading = () => {
    if (heading === null) return;
    const level = Math.min(3, heading) as 1 | 2 | 3;
    const inline = words.takeInline();
    heading = null;
    if (inline.length === 0) return;
    if (!words.flat || table) {
      words.put({ type: "paragraph", content: inline });
      return;
    }
    endWords();
    const plain = inline.map((part) => {
      const rest = part.marks?.filter((mark) => mark.type !== "strong") ?? [];
      const { marks: _all, ...bare } = part;
      return rest.length ? { ...bare, marks: rest } : bare;
    });
    const text = parseText({ type: "phrase", content: plain }, "phrase").toJSON();
    pieces.push({ kind: "heading", level, words: text });
  };
  const endListed = () => {
    if (listed === null) return;
    listed = null;
    const inline = words.takeInline();
    const [first, ...rest] = inline;
    if (!first) return;
    const found = BULLET.exec(first.text ?? "");
    const text = (first.text ?? "").slice(found?.[0].length ?? 0);
    const content = text ? [{ ...first, text }, ...rest] : rest;
    if (content.length === 0) return;
    const type = found?.[1] ? "ordered_list" : "bullet_list";
    words.put({
      type,
      content: [{ type: "list_item", content: [{ type: "paragraph", content }] }],
    });
  };
  const endCell = () => {
    if (!table?.inCell) return;
    table.draft.rows.at(-1)?.cells.push(docOf(words.finish()));
    table.inCell = false;
    words = new Words();
  };
  const endTable = () => {
    if (!table) return;
    endCell();
    const { draft, outer } = table;
    table = null;
    words = outer;
    const rows = draft.rows.filter((row) => row.cells.length > 0);
    const width = Math.min(
      LIMITS.tableColumns,
      Math.max(0, ...rows.map((row) => row.cells.length)),
    );
    if (rows.length === 0) return;
    // A table of one column only arranges its words.
    if (width === 1) {
      for (const node of rows.flatMap((row) => row.cells[0]!.content ?? [])) words.put(node);
      return;
    }
    if (rows.length > LIMITS.tableRows) cut = true;
    endWords();
    pieces.push({
      kind: "table",
      header: rows[0]!.header,
      rows: rows
        .slice(0, LIMITS.tableRows)
        .map(({ cells }) => Array.from({ length: width }, (_, i) => cells[i] ?? docOf([]))),
    });
  };

  const opened = (tag: string, attributes: Record<string, string>) => {
    if (SILENT.has(tag)) silent++;
    if (silent) return;
    const style = attributes.style ?? "";
    const own = MARKS[tag];
    const styled = styleMarks(style);
    const on: MarkJson[] = [...(own ? [own] : []), ...styled.on]
      .filter((type) => !styled.off.includes(type))
      .map((type) => ({ type }));
    const link = tag === "a" ? linkFrom(attributes.href ?? "") : null;
    if (link) on.push({ type: "link", attrs: { to: link as never } });
    if (tag === "br") return words.lineBreak();
    marks.push({ tag, on, off: styled.off });
    if (/^h[1-6]$/.test(tag)) {
      words.endParagraph();
      heading = Number(tag[1]);
    } else if (tag === "ul" || tag === "ol")
      words.open(tag === "ul" ? "bullet_list" : "ordered_list");
    else if (tag === "li") words.open("list_item");
    else if (tag === "blockquote") words.open("indented");
    else if (tag === "table") {
      if (table) table.depth++;
      else {
        words.endParagraph();
        table = { draft: { rows: [] }, outer: words, depth: 0, inCell: false };
        words = new Words();
      }
    } else if (tag === "tr" && table?.depth === 0)
      table.draft.rows.push({ cells: [], header: true });
    else if ((tag === "td" || tag === "th") && table?.depth === 0) {
      endCell();
      if (table.draft.rows.length === 0) table.draft.rows.push({ cells: [], header: true });
      if (tag === "td") table.draft.rows.at(-1)!.header = false;
      table.inCell = true;
    } else if (BLOCKS.has(tag)) {
      words.endParagraph();
      if (tag === "p" && LISTED.test(style)) listed = Number(LISTED.exec(style)![1]);
    }
  };
  const closed = (tag: string) => {
    if (SILENT.has(tag)) {
      silent = Math.max(0, silent - 1);
      return;
    }
    if (silent || tag === "br") return;
    const at = marks.findLastIndex((mark) => mark.tag === tag);
    if (at >= 0) marks.splice(at, 1);
    if (/^h[1-6]$/.test(tag)) endHeading();
    else if (tag === "ul" || tag === "ol")
      words.close(tag === "ul" ? "bullet_list" : "ordered_list");
    else if (tag === "li") words.close("list_item");
    else if (tag === "blockquote") words.close("indented");
    else if ((tag === "td" || tag === "th") && table?.depth === 0) endCell();
    else if (tag === "table" && table) {
      if (table.depth > 0) table.depth--;
      else endTable();
    } else if (BLOCKS.has(tag)) {
      endListed();
      words.endParagraph();
    }
  };
  const parser = new Parser(
    {
      onopentag: opened,
      onclosetag: closed,
      ontext(text) {
        if (silent || cut) return;
        // Blanks between rows and cells are no words.
        if (table && !table.inCell && text.trim() === "") return;
        const room = LIMITS.pasteText - characters;
        // biome-ignore lint/suspicious/noControlCharactersInRegex: what cannot be seen is left out
        const plain = text.replace(/[\s\u00a0]+/g, " ").replace(/[\u0000-\u001f\u200b\ufeff]/g, "");
        if (plain.length > room) cut = true;
        characters += plain.length;
        words.text(plain.slice(0, Math.max(0, room)), current());
      },
    },
    { decodeEntities: true },
  );
  // In parts, so that a huge paste can end early.
  for (let at = 0; at < html.length && !cut; at += 65_536)
    parser.write(html.slice(at, at + 65_536));
  parser.end();
  endHeading();
  endListed();
  endTable();
  endWords();
  return { pieces: joinLists(pieces), cut };
}

/** Lists that were made one item at a time become one. */
function joinLists(pieces: readonly Piece[]): Piece[] {
  return pieces.map((piece) => {
    if (piece.kind !== "words") return piece;
    const content: TextJson[] = [];
    for (const node of piece.words.content ?? []) {
      const last = content.at(-1);
      const list = node.type === "bullet_list" || node.type === "ordered_list";
      if (last && list && last.type === node.type) {
        content[content.length - 1] = {
          ...last,
          content: [...(last.content ?? []), ...(node.content ?? [])],
        };
      } else content.push(node);
    }
    return { kind: "words", words: docOf(content) };
  });
}

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
      ? {
          ...part,
          marks: [...(part.marks ?? []), { type: "strong" }].sort(
            (a, b) => RANK.indexOf(a.type) - RANK.indexOf(b.type),
          ),
        }
      : part;
  return docOf(
    pieces.flatMap((piece): TextJson[] => {
      if (piece.kind === "table") return [];
      if (piece.kind === "words") return [...(piece.words.content ?? [])];
      return [{ type: "paragraph", content: (piece.words.content ?? []).map(strong) }];
    }),
  );
}
