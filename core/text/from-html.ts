/**
 * Foreign HTML (a word processor, a page, a spreadsheet) as pieces of our own: words, headings, tables.
 * Structure, bold, italic, raised and lowered words and links stay; every other styling is dropped, and
 * nothing of the HTML itself is kept. The parser follows the WHATWG tokenisation as htmlparser2 has it.
 */

import { Parser } from "htmlparser2";
import { under } from "../json.ts";
import { LIMITS } from "../limits.ts";
import { docOf, joinedLists, type MarkJson, ranked, Words } from "./gather.ts";
import type { Link } from "./link.ts";
import { linkFrom } from "./link-from.ts";
import type { Piece } from "./pieces.ts";
import { parseText, type TextJson } from "./schema.ts";

export interface Pieces {
  readonly pieces: readonly Piece[];
  /** There was more than may be taken in at once; the rest was left out. */
  readonly cut: boolean;
}

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
  s: "strike",
  del: "strike",
  strike: "strike",
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

interface TableDraft {
  readonly rows: { cells: TextJson[]; header: boolean }[];
}

/** Paragraphs that some word processors mark as items of a list instead of making one. */
const LISTED = /mso-list\s*:[^;]*level(\d)/i;
const BULLET = /^\s*(?:([0-9]{1,3}|[a-z])[.)]|[·•▪◦o§–-])\s+/i;

/** Reads HTML into pieces; what is not understood is passed over. `linkOf` gives the link of an address. */
export function piecesFromHtml(
  html: string,
  linkOf: (address: string) => Link | null = linkFrom,
): Pieces {
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
    return ranked([...active.values()]);
  };
  const endWords = () => {
    kept.push(...words.finish());
    if (kept.length) pieces.push({ kind: "words", words: docOf(joinedLists(kept)) });
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
    const own = under(MARKS, tag);
    const styled = styleMarks(style);
    const on: MarkJson[] = [...(own ? [own] : []), ...styled.on]
      .filter((type) => !styled.off.includes(type))
      .map((type) => ({ type }));
    const link = tag === "a" ? linkOf(attributes.href ?? "") : null;
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
  return { pieces, cut };
}
