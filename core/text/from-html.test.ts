import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { LIMITS } from "../limits.ts";
import { piecesFromHtml } from "./from-html.ts";
import { parseText, type TextJson, tableFromPlain, textOfPieces } from "./index.ts";

const words = (html: string): TextJson => textOfPieces(piecesFromHtml(html).pieces);
/** A text in a short spelling: paragraphs in brackets, marks by their first letter. */
function short(node: TextJson): string {
  if (node.type === "hard_break") return "/";
  if (node.type === "text") {
    const marks = (node.marks ?? []).map((mark) => mark.type[0]).join("");
    return marks ? `${marks}(${node.text})` : node.text!;
  }
  const inner = (node.content ?? []).map(short).join("");
  if (node.type === "doc" || node.type === "phrase") return inner;
  const name = { paragraph: "", bullet_list: "ul", ordered_list: "ol", list_item: "-" }[node.type];
  return `${name ?? node.type}[${inner}]`;
}

describe("foreign HTML", () => {
  it("keeps paragraphs, bold, italic, links and breaks, and drops other styling", () => {
    const html = `<meta charset=utf-8><p style="color:red;font-family:Papyrus">One <b>two</b>
      <span style="font-weight:700">three</span> <i>four</i><br>five</p>
      <div>Six <a href="https://larkmoor.example/a?b=1&amp;c=2">seven</a></div>`;
    expect(short(words(html))).toBe("[One s(two) s(three) e(four)/five][Six l(seven)]");
    expect(JSON.stringify(words(html))).not.toMatch(/red|Papyrus/);
  });
  it("keeps what is below the line, and of what is both what is above it", () => {
    const subscript = words("<p>H<sub>2</sub>O, x<sup>3</sup></p>").content![0]!.content!;
    expect(subscript.map(({ text, marks }) => [text, marks?.[0]?.type])).toEqual([
      ["H", undefined],
      ["2", "subscript"],
      ["O, x", undefined],
      ["3", "superscript"],
    ]);
    const both = JSON.stringify(words("<p><sub><sup>1</sup></sub></p>"));
    expect(both).toContain("superscript");
    expect(both).not.toContain("subscript");
  });
  it("keeps lists in lists, and puts loose items right", () => {
    expect(short(words("<ul><li>a<ol><li>b</li></ol></li><li><p>c</p></li></ul>"))).toBe(
      "ul[-[[a]ol[-[[b]]]]-[[c]]]",
    );
    expect(short(words("<ul>loose<li>a</ul>"))).toBe("ul[-[[loose]]-[[a]]]");
    expect(short(words("<li>alone</li>"))).toContain("alone");
  });
  it("reads the marked paragraphs of a word processor as lists", () => {
    const item = (mark: string, text: string) =>
      `<p style="mso-list:l0 level1 lfo1"><span>${mark}<span>&nbsp;&nbsp; </span></span>${text}</p>`;
    expect(short(words(item("·", "a") + item("·", "b") + item("1.", "c")))).toBe(
      "ul[-[[a]]-[[b]]]ol[-[[c]]]",
    );
  });
  it("leaves a bold wrapper that is not bold alone", () => {
    expect(short(words('<b style="font-weight:normal"><p>plain</p></b>'))).toBe("[plain]");
  });
  it("gives headings and tables as pieces of their own", () => {
    const html = `<h2>Walks <b>now</b></h2><p>Come.</p>
      <table><tr><th>Day</th><th>Time</th></tr><tr><td>Mon</td><td><b>9</b></td></tr><tr><td>Tue</td></tr></table><p>End</p>`;
    const { pieces } = piecesFromHtml(html);
    expect(pieces.map((piece) => piece.kind)).toEqual(["heading", "words", "table", "words"]);
    expect(pieces[0]).toMatchObject({ level: 2 });
    expect(short((pieces[0] as { words: TextJson }).words)).toBe("Walks now");
    const table = pieces[2] as Extract<(typeof pieces)[number], { kind: "table" }>;
    expect(table.header).toBe(true);
    expect(table.rows.map((row) => row.map(short))).toEqual([
      ["[Day]", "[Time]"],
      ["[Mon]", "[s(9)]"],
      ["[Tue]", "[]"],
    ]);
  });
  it("keeps blanks in the cells of a table, and takes none between them for words", () => {
    const cell = "<td><b>1</b> <i>2</i></td>";
    const { pieces } = piecesFromHtml(`<table> <tr> ${cell} <td>3</td> </tr> </table>`);
    const [table] = pieces as [Extract<(typeof pieces)[number], { kind: "table" }>];
    expect(pieces).toHaveLength(1);
    expect(table.rows.map((row) => row.map(short))).toEqual([["[s(1) e(2)]", "[3]"]]);
  });
  it("takes a table of one column for words", () => {
    expect(short(words("<table><tr><td><p>a</p><p>b</p></td></tr></table>"))).toBe("[a][b]");
  });
  it("takes no script, no style, and no address that runs one", () => {
    const html = `<script>alert(1)</script><style>p{}</style><p onclick="x()">a <a href="javascript:alert(1)">b</a>
      <a href=" java&#10;script:alert(1)">c</a><img src=x onerror=alert(1)><svg><text>no</text></svg></p>`;
    expect(short(words(html))).toBe("[a b c]");
    expect(JSON.stringify(words(html))).not.toMatch(/alert|onclick|javascript/);
  });
  it("cuts what is longer than may be pasted, and says so", () => {
    const { pieces, cut } = piecesFromHtml(`<p>${"word ".repeat(LIMITS.pasteText)}</p>`);
    expect(cut).toBe(true);
    expect(JSON.stringify(pieces).length).toBeLessThan(LIMITS.pasteText + 1_000);
  });
  it("makes whole texts of any HTML", () => {
    const tags =
      "p div b i a ul ol li table tr td th h1 h4 blockquote br span sup sub script pre".split(" ");
    const piece = fc.oneof(
      fc.constantFrom(...tags).map((tag) => `<${tag}>`),
      fc.constantFrom(...tags).map((tag) => `</${tag}>`),
      fc.constantFrom(
        '<a href="https://a.example">',
        '<p style="mso-list:l0 level2">',
        "&nbsp;",
        "<",
      ),
      fc.string({ maxLength: 8 }),
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 40 }), (parts) => {
        for (const one of piecesFromHtml(parts.join("")).pieces) {
          if (one.kind === "table") for (const cell of one.rows.flat()) parseText(cell, "doc");
          else parseText(one.words, one.kind === "words" ? "doc" : "phrase");
        }
      }),
      { numRuns: 500 },
    );
  });
});

describe("HTML with ends that begin nowhere", () => {
  it("keeps the marks that are open", () => {
    const [one] = words("<p><b>bold</i> still</b> not</p>").content!;
    expect(one!.content).toMatchObject([
      { text: "bold still", marks: [{ type: "strong" }] },
      { text: " not" },
    ]);
  });
  it("makes an empty item of a list one that can be written in", () => {
    expect(words("<ul><li></li><li>x</li></ul>").content).toMatchObject([
      { type: "bullet_list", content: expect.any(Array) },
    ]);
  });
});

describe("plain text", () => {
  it("is a table where every line has the same number of tabs", () => {
    expect(tableFromPlain("a\tb\r\nc\td\r\n")).toMatchObject({ kind: "table" });
    expect(tableFromPlain("a\tb\nc")).toBeNull();
    expect(tableFromPlain("just words")).toBeNull();
  });
});
