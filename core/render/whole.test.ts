/** Nothing is lost and nothing doubled: every word, link and picture of any document is in both versions. */
import fc from "fast-check";
import { parse } from "parse5";
import { describe, expect, it } from "vitest";
import { checkDocument, textsOf } from "../blocks/index.ts";
import { type DocNode, type EmailDocument, isBlock, valueAt, walk } from "../document/index.ts";
import type { Json, JsonObject } from "../json.ts";
import type { Picture } from "../kinds/kind.ts";
import { wrapText } from "../markup/index.ts";
import { mergeText, prepare } from "../merge/index.ts";
import { documentArbitrary } from "../testing/arbitrary-documents.ts";
import { attributeOf, elements, wordsUnder } from "../testing/elements.ts";
import { anItem, showing } from "../testing/items.ts";
import { DIRECT, picture, SURROUNDINGS } from "../testing/rendered.ts";
import { line, type TextJson } from "../text/index.ts";
import { compile } from "./index.ts";

interface Told {
  /** Every word with where it stands, every address, every picture. */
  readonly words: { word: string; type: string; path: string; props: JsonObject }[];
  readonly addresses: { address: string; type: string }[];
  readonly pictures: Map<string, Picture>;
}

/**
 * The document with every part on, and with every word, address and picture made one of its own, so that each
 * can be found again.
 */
function named(document: EmailDocument): { doc: EmailDocument; told: Told } {
  const told: Told = { words: [], addresses: [], pictures: new Map() };
  let n = 0;
  const address = (type: string) => {
    const url = `https://example.org/p${++n}e`;
    told.addresses.push({ address: url, type });
    return url;
  };
  const text = (value: TextJson, type: string, note: (word: string) => void): TextJson => {
    if (value.type === "tag" || value.type === "text") {
      const word = `w${++n}e`;
      note(word);
      const link = value.marks?.find((mark) => mark.type === "link");
      const marks = link
        ? [{ type: "link", attrs: { to: web(address(`${type}, in words`)) } }]
        : undefined;
      return { type: "text", text: word, ...(marks && { marks: marks as never }) };
    }
    return {
      ...value,
      ...(value.content && { content: value.content.map((one) => text(one, type, note)) }),
    };
  };
  const web = (url: string) => ({ kind: "web", address: line(url) }) as unknown as Json;
  const on = (value: Json): Json =>
    typeof value === "boolean"
      ? true
      : value !== null && typeof value === "object" && !Array.isArray(value)
        ? Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, on(inner!)]))
        : value;
  const visit = (node: DocNode): DocNode => {
    let props: JsonObject = { ...node.props };
    for (const name of [
      "parts",
      "captions",
      "words",
      "address",
      "webVersion",
      "preferences",
      "unsubscribe",
    ]) {
      if (name in props && (name === "parts" || typeof props[name] === "boolean")) {
        props = { ...props, [name]: on(props[name]!) };
      }
    }
    // What makes more links of one, or more words, is looked at elsewhere.
    for (const [name, value] of [
      ["linkTitle", false],
      ["whole", false],
      ["barcode", "none"],
    ] as const) {
      if (name in props) props = { ...props, [name]: value };
    }
    if (node.type === "countdown") props = { ...props, until: "2026-12-24T17:00:00.000Z" };
    if ("show" in props) props = { ...props, show: "both" };
    if ("decorative" in props) props = { ...props, decorative: false };
    if ("picture" in props && node.type !== "band") {
      const id = `f${(++n).toString(16).padStart(21, "0")}`.padEnd(64, "e");
      told.pictures.set(id, picture(id));
      props = { ...props, picture: id };
    } else if (node.type === "band") props = { ...props, picture: null };
    for (const { path } of node.type === "email" ? [] : textsOf(node.type)) {
      const [name, inner] = path as [string, string | undefined];
      const value = valueAt(props, path) as unknown as TextJson;
      const made = text(
        // Words of a cell that shows a picture wait unseen, their links with them.
        (value.content ?? []).length && props.holds !== "picture" ? value : filled(value),
        node.type,
        (word) => told.words.push({ word, type: node.type, path: path.join("."), props }),
      ) as unknown as Json;
      props = inner
        ? { ...props, [name]: { ...(props[name] as JsonObject), [inner]: made } }
        : { ...props, [name]: made };
    }
    if (node.type === "card") props = { ...props, to: { kind: "none" } };
    else if ("to" in props) props = { ...props, to: web(address(node.type)) };
    if ("secondTo" in props) props = { ...props, secondTo: web(address(node.type)) };
    if (node.type === "html") props = { ...props, source: "<p>own</p>" };
    // A table of contents says the words of the headings again.
    const children = shownChildren(node).filter(({ type }) => type !== "contents");
    return { ...node, props, children: children.map(visit) };
  };
  const doc = { ...document, root: visit(document.root) };
  return { doc, told };
}
/** A row may hold more cells than its table has columns; those are not shown. */
function shownChildren(node: DocNode): readonly DocNode[] {
  if (node.type !== "table") return node.children;
  const columns = node.children.filter(({ type }) => type === "table.column").length;
  return node.children.map((child) => ({ ...child, children: child.children.slice(0, columns) }));
}
/** An answer to a question; as a star or a face it says its words aloud alone. */
const isAnswer = (one: Parameters<typeof attributeOf>[0]) =>
  attributeOf(one, "href")?.includes("/q/") ?? false;
const filled = (empty: TextJson): TextJson =>
  empty.type === "doc"
    ? { type: "doc", content: [{ type: "paragraph", content: [{ type: "text", text: "x" }] }] }
    : { ...empty, content: [{ type: "text", text: "x" }] };

/** Where a word may be missing although every part is on. */
function expected(one: Told["words"][number]): { html: boolean; text: boolean } {
  const { type, path, props } = one;
  // The logo stands instead of the name; a countdown says its words as a picture; a subject waits in an address.
  if (type === "masthead" && path === "name") return { html: false, text: false };
  // Where there is an item, nothing says that there is none.
  if (path === "emptyWords") return { html: false, text: false };
  if (type === "qrCode") return { html: true, text: path !== "alt" };
  if (type === "countdown") return { html: false, text: false };
  // It stands on the page that answers lead to.
  if (type === "question" && path === "thanks") return { html: false, text: false };
  if (type === "shareRow.way" && path === "subject") return { html: false, text: false };
  if (type === "table.row.cell") {
    const shown = (path === "alt") === (props.holds === "picture");
    return { html: shown, text: shown };
  }
  return { html: true, text: true };
}

/** How often an address is a link: a picture and its words, or its button, lead to the same place. */
const LINKS: Record<string, number> = {
  video: 2,
  pictureAndWords: 2,
  article: 2,
  "pictureGrid.picture": 2,
};

const count = (text: string, word: string) => text.split(word).length - 1;

describe("any document", () => {
  it("is valid, and has every word, link and picture once in the HTML and in the plain text", () => {
    fc.assert(
      fc.property(documentArbitrary, (document) => {
        checkDocument(document);
        const { doc, told } = named(document);
        checkDocument(doc);
        const live = showing(doc, [anItem()]);
        const around = { ...SURROUNDINGS, pictures: told.pictures, live };
        const prepared = prepare(compile(doc, around), DIRECT);
        const reader = { values: {}, token: "t" };
        const html = mergeText(prepared.html, reader);
        const page = parse(html);
        const all = [...elements(page)];
        const article = all.find((one) => attributeOf(one, "role") === "article")!;
        // Names of columns are told again for narrow, hidden from everybody else.
        const onNarrow = new Set(
          all
            .filter((one) => attributeOf(one, "class") === "nb")
            .flatMap((one) => [...elements(one)]),
        );
        const words = [
          wordsUnder(article, (one) => attributeOf(one, "class") === "sl"),
          // A sign's partner for dark programs says the same.
          // So does a picture for narrow.
          ...all
            .filter(
              (one) => !/^(im )?dd$/.test(attributeOf(one, "class") ?? "") && !onNarrow.has(one),
            )
            .map((one) => attributeOf(one, "alt") ?? ""),
          ...all
            .filter((one) => attributeOf(one, "role") === "figure" || isAnswer(one))
            .map((one) => attributeOf(one, "aria-label") ?? ""),
        ].join(" ");
        const plain = wrapText(mergeText(prepared.text, reader));
        for (const one of told.words) {
          const where = `${one.type}.${one.path}`;
          const wanted = expected(one);
          expect([where, count(words, one.word)]).toEqual([where, wanted.html ? 1 : 0]);
          expect([where, count(plain, one.word) > 0]).toEqual([where, wanted.text]);
        }
        const hrefs = all.map((one) => attributeOf(one, "href"));
        for (const { address, type } of told.addresses) {
          const links = LINKS[type] ?? 1;
          expect([type, hrefs.filter((href) => href === address).length]).toEqual([type, links]);
          expect(plain).toContain(address);
        }
        const shown = all.map(
          (one) => attributeOf(one, "src") ?? attributeOf(one, "background") ?? "",
        );
        const sources = shown.map((src) => {
          const recipe = /\/made\/([^/]+)\//.exec(src)?.[1];
          return recipe ? Buffer.from(recipe, "base64url").toString() : src;
        });
        const pictured = [...walk(doc.root)].filter(
          (node) => "picture" in node.props && node.type !== "band" && node.props.holds !== "words",
        );
        for (const node of pictured) {
          // In addresses its beginning stands.
          const id = String(node.props.picture).slice(0, 22);
          expect([node.type, sources.filter((src) => src.includes(id)).length]).toEqual([
            node.type,
            1,
          ]);
        }
      }),
      { numRuns: 120 },
    );
  });

  it("leaves no slot unresolved, and is the same byte for byte when made again", () => {
    fc.assert(
      fc.property(documentArbitrary, (document) => {
        const first = compile(document, SURROUNDINGS);
        for (const segment of [...first.html, ...first.text]) {
          if (typeof segment !== "string") expect(segment.slot).not.toBe("address");
        }
        const copy = JSON.parse(JSON.stringify(document)) as EmailDocument;
        expect(compile(copy, { ...SURROUNDINGS })).toEqual(first);
      }),
      { numRuns: 40 },
    );
  });

  it("gives the table-only engine cells whose widths add up to their table's, at every level", () => {
    fc.assert(
      fc.property(documentArbitrary, (document) => {
        const html = mergeText(prepare(compile(document, SURROUNDINGS), DIRECT).html, {
          values: {},
          token: "t",
        });
        const open: { whole: number | null; sum: number }[] = [];
        for (const [, ghost] of html.matchAll(/<!--\[if mso\]>([\s\S]*?)<!\[endif\]-->/g)) {
          for (const [tag] of ghost!.matchAll(/<\/?(?:table|td)[^>]*>/g)) {
            const width = / width="(\d+)"/.exec(tag)?.[1];
            if (tag.startsWith("<table"))
              open.push({ whole: width ? Number(width) : null, sum: 0 });
            else if (tag.startsWith("<td")) open.at(-1)!.sum += Number(width ?? 0);
            else if (tag === "</table>") {
              const { whole, sum } = open.pop()!;
              if (whole !== null) expect(sum).toBe(whole);
            }
          }
        }
        expect(open).toEqual([]);
      }),
      { numRuns: 80 },
    );
  });

  it("keeps blocks in the order of the running order, however columns stand", () => {
    fc.assert(
      fc.property(documentArbitrary, (document) => {
        const ids = [...walk(document.root)]
          .filter(({ type }) => isBlock(type))
          .map(({ id }) => id);
        const { html } = compile(document, SURROUNDINGS);
        const marks = html.flatMap((one) =>
          typeof one !== "string" && one.slot === "mark" && one.text === null ? [one.node] : [],
        );
        const reversed = document.root.children.some(
          ({ props, children }) => props.onNarrow === "reverse" && children.length > 1,
        );
        const shown = marks.filter((id) => ids.includes(id));
        expect(shown.toSorted()).toEqual(ids.toSorted());
        if (!reversed) expect(shown).toEqual(ids);
      }),
      { numRuns: 40 },
    );
  });
});
