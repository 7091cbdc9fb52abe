/** Foreign HTML as a tree of elements with the styles that hold for each; parsed as browsers do (WHATWG HTML, 13.2). */
import { type DefaultTreeAdapterTypes as Parsed, parse } from "parse5";
import { LIMITS } from "../../limits.ts";
import { rulesOf, type StyleRules, stylesOf } from "./styles.ts";

export interface El {
  readonly tag: string;
  readonly attrs: Readonly<Record<string, string>>;
  /** Style properties of its own: those of rules, and over them those it bears. */
  readonly css: Readonly<Record<string, string>>;
  readonly children: readonly Inner[];
}
export type Inner = El | string;
export const isEl = (inner: Inner): inner is El => typeof inner !== "string";

/** What is no part of what is read. */
const SILENT = new Set("script style head title noscript template meta link base xml".split(" "));

interface Raw {
  readonly tag: string;
  readonly attrs: Record<string, string>;
  readonly children: (Raw | string)[];
  readonly depth: number;
}

function attributesOf({ attrs }: Parsed.Element): Record<string, string> {
  const own: Record<string, string> = {};
  for (const { name, value } of attrs) own[name] = value;
  return own;
}

/** The elements, without comments; those too deep stand in the last that is not. Never goes deeper than it may. */
function plainTree(document: Parsed.Document) {
  const root: Raw = { tag: "#root", attrs: {}, children: [], depth: 0 };
  const sheets: string[] = [];
  let title = "";
  let count = 0;
  let cut = false;
  const open: { node: Parsed.ChildNode; into: Raw }[] = [];
  const push = (nodes: readonly Parsed.ChildNode[], into: Raw) => {
    for (let i = nodes.length - 1; i >= 0; i--) open.push({ node: nodes[i]!, into });
  };
  push(document.childNodes, root);
  for (let next = open.pop(); next; next = open.pop()) {
    const { node, into } = next;
    if (node.nodeName === "#text") {
      into.children.push((node as Parsed.TextNode).value);
      continue;
    }
    if (!("tagName" in node)) continue;
    const words = () => node.childNodes.map((one) => ("value" in one ? one.value : "")).join("");
    if (node.tagName === "style") sheets.push(words());
    if (node.tagName === "title" && into.tag === "head") title ||= words().trim();
    if (SILENT.has(node.tagName) && node.tagName !== "head") continue;
    if (++count > LIMITS.foreignNodes) {
      cut = true;
      break;
    }
    const deep = into.depth >= LIMITS.foreignDepth;
    const own: Raw = {
      tag: node.tagName,
      attrs: attributesOf(node),
      children: deep ? into.children : [],
      depth: into.depth + 1,
    };
    if (!deep) into.children.push(own);
    push(node.childNodes, deep ? into : own);
  }
  return { root, sheets, title, cut };
}

/** `above` is what it stands in, and as it was again afterwards. */
function styled(raw: Raw, rules: StyleRules, above: Raw[]): El {
  const css = stylesOf(raw, above, rules);
  const children: Inner[] = [];
  above.push(raw);
  for (const one of raw.children) {
    if (typeof one === "string") children.push(one);
    else if (one.tag !== "head") children.push(styled(one, rules, above));
  }
  above.pop();
  return { tag: raw.tag, attrs: raw.attrs, css, children };
}

/** The tree of a document, what it is called, and whether it had more elements than may be. */
export function treeOf(html: string): { body: El; title: string; cut: boolean } {
  const { root, sheets, title, cut } = plainTree(parse(html.slice(0, LIMITS.foreignHtml)));
  const tree = styled(root, rulesOf(sheets.join("\n")), []);
  const page = tree.children.find(isEl);
  const body = page?.children.filter(isEl).find(({ tag }) => tag === "body");
  return { body: body ? { ...body, attrs: { ...page!.attrs, ...body.attrs } } : tree, title, cut };
}

const texts = new WeakMap<El, string>();
/** All of its words, in a row. */
export function textIn(inner: Inner): string {
  if (!isEl(inner)) return inner;
  let text = texts.get(inner);
  if (text === undefined) {
    text = "";
    for (const one of inner.children) text += textIn(one);
    texts.set(inner, text);
  }
  return text;
}
/** Blanks of every kind, and what mail is filled up with to hide what follows. */
const NOTHING = /(?:[\s\u00ad\u061c\u200b-\u200f\u202a-\u202e\u2060\u2800]|\u034f|\ufeff)+/g;
const plain = (text: string): string => text.replace(NOTHING, " ").trim();
const seen = new WeakMap<El, string>();
export function visibleText(inner: Inner): string {
  if (!isEl(inner)) return plain(inner);
  let text = seen.get(inner);
  if (text === undefined) {
    text = plain(textIn(inner));
    seen.set(inner, text);
  }
  return text;
}

const counts = new WeakMap<El, number>();
/** How many letters of it are to be seen, blanks around each piece left out: 0 where there are no words. */
export function letters(inner: Inner): number {
  if (!isEl(inner)) return plain(inner).length;
  let count = counts.get(inner);
  if (count === undefined) {
    count = 0;
    for (const one of inner.children) count += letters(one);
    counts.set(inner, count);
  }
  return count;
}

export function* elementsIn(el: El): Generator<El> {
  for (const one of el.children) {
    if (!isEl(one)) continue;
    yield one;
    yield* elementsIn(one);
  }
}
/** Whether an element within it fits. */
export function some(el: El, fits: (one: El) => boolean): boolean {
  for (const one of el.children) if (isEl(one) && (fits(one) || some(one, fits))) return true;
  return false;
}
