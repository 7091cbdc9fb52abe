/**
 * An email as a screen reader says it, in its order: what each thing is, then its words (roles of HTML-AAM; what is
 * hidden or presentational is passed over).
 */
import { type Element, named, type Page, readPage, styleOf } from "./page.ts";

/** Something it says; `as` is what that is. */
export interface Said {
  readonly as: string | null;
  readonly words: string;
}

const BLOCKS = new Set(
  "address article blockquote body center dd div dl dt figcaption figure footer form h1 h2 h3 h4 h5 h6 header hr li main ol p pre section table tbody td tfoot th thead tr ul".split(
    " ",
  ),
);
const SILENT = new Set(["head", "style", "script", "title", "template"]);
type Node = Page["children"][number];
const isElement = (node: Node): node is Element => "attribs" in node;

const isHidden = (element: Element): boolean =>
  SILENT.has(element.name) ||
  element.attribs["aria-hidden"] === "true" ||
  styleOf(element, "display") === "none" ||
  styleOf(element, "visibility") === "hidden";

/** A picture's file, where it has no words. */
const fileOf = (address: string) => address.split(/[?#]/)[0]!.split("/").at(-1) ?? "";

class Speech {
  readonly said: Said[] = [];
  private line = "";
  private as: string | null = null;

  say(words: string): void {
    this.line += words;
  }
  /** Ends what is being said; `as` is what comes next. */
  turn(as: string | null = null): void {
    const words = this.line.replace(/(?:\s|\u034f|\u200b|\u200c|\u00ad)+/g, " ").trim();
    if (words) this.said.push({ as: this.as, words });
    this.line = "";
    this.as = as;
  }
  note(as: string, words = ""): void {
    this.turn();
    this.said.push({ as, words });
  }
}

const languageName = (lang: string) => {
  try {
    return new Intl.DisplayNames(["en"], { type: "language" }).of(lang) ?? lang;
  } catch {
    return lang;
  }
};

function isData(table: Element): boolean {
  return table.name === "table" && !/^(presentation|none)$/.test(table.attribs.role ?? "");
}

const rowsOf = (table: Element): Element[] =>
  [...walk(table)].filter((one) => one.name === "tr" && nearest(one, "table") === table);
function* walk(element: Element): Generator<Element> {
  for (const child of element.children) {
    if (!isElement(child)) continue;
    yield child;
    yield* walk(child);
  }
}
function nearest(element: Element, name: string): Element | null {
  for (let up = element.parent; up; up = up.parent) {
    if (isElement(up as Node) && (up as Element).name === name) return up as Element;
  }
  return null;
}

function speak(node: Node, speech: Speech, lang: string): void {
  if (!isElement(node)) {
    if (node.type === "text") speech.say((node as { data: string }).data);
    return;
  }
  if (isHidden(node)) return;
  const { name, attribs } = node;
  const own = attribs.lang || lang;
  if (own !== lang) speech.note("language", languageName(own));
  const inside = () => {
    for (const child of node.children) speak(child, speech, own);
  };
  if (name === "br") speech.say(" ");
  else if (name === "img" || attribs.role === "img") {
    const { alt, src = "" } = attribs;
    const words = attribs["aria-label"] ?? alt;
    if (words === undefined) speech.say(` image without words, ${fileOf(src)} `);
    else if (words) speech.say(` image: ${words} `);
  } else if (name === "a" && attribs.href) {
    speech.say("[link: ");
    inside();
    speech.say("]");
  } else if (/^h[1-6]$/.test(name)) {
    speech.turn(`heading ${name[1]}`);
    inside();
    speech.turn();
  } else if (isData(node)) {
    const rows = rowsOf(node);
    const columns = Math.max(0, ...rows.map((row) => row.children.filter(isElement).length));
    speech.note(
      "table",
      `${rows.length} ${rows.length === 1 ? "row" : "rows"}, ${columns} ${columns === 1 ? "column" : "columns"}`,
    );
    inside();
    speech.note("end of table");
  } else if ((name === "ul" || name === "ol") && attribs.role !== "presentation") {
    const items = node.children.filter((child) => isElement(child) && child.name === "li").length;
    speech.note("list", `${items} ${items === 1 ? "item" : "items"}`);
    inside();
  } else if (name === "li") {
    speech.turn("item");
    inside();
    speech.turn();
  } else if (name === "th" && nearest(node, "table") && isData(nearest(node, "table")!)) {
    speech.turn("header");
    inside();
    speech.turn();
  } else if (attribs.role === "article") {
    speech.note("email", attribs["aria-label"] ?? "");
    inside();
  } else if (BLOCKS.has(name)) {
    speech.turn();
    inside();
    speech.turn();
  } else inside();
  if (own !== lang) {
    speech.turn();
    speech.note("language", languageName(lang));
  }
}

/** What is said of a finished email, one thing after another. */
export function readAloud(html: string): Said[] {
  const page = readPage(html);
  const speech = new Speech();
  const lang = named(page, "html")[0]?.attribs.lang ?? "";
  for (const node of page.children) speak(node, speech, lang);
  speech.turn();
  return speech.said;
}
