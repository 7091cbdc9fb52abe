/** A finished email as a tree that families of mail programs change: elements, their styles, and style sheets. */
import { DomUtils, parseDocument } from "htmlparser2";
import postcss, { type Declaration, type Root } from "postcss";

export type Page = ReturnType<typeof parseDocument>;
export type Element = ReturnType<typeof DomUtils.getElementsByTagName>[number];

/** Reads HTML; what is not closed is closed where its parent ends. Elements of the vector markup may close themselves. */
export const readPage = (html: string): Page => parseDocument(html, { recognizeSelfClosing: true });
/** The HTML of a page or of an element. */
export const writePage = (page: Page | Element): string =>
  DomUtils.getOuterHTML(page, { encodeEntities: "utf8" });

/** All elements in a page or an element, in their order. */
export const elementsOf = (within: Page | Element): Element[] =>
  DomUtils.getElementsByTagName("*", within.children, true);
export const named = (page: Page, name: string): Element[] =>
  DomUtils.getElementsByTagName(name, page, true);
export const textOf = (element: Element): string => DomUtils.textContent(element);
export const remove = (element: Element): void => DomUtils.removeElement(element);

/** Puts HTML in the place of an element; what the element holds may go in it. */
export function replace(element: Element, html: string): void {
  for (const child of [...readPage(html).children]) DomUtils.prepend(element, child);
  DomUtils.removeElement(element);
}

/** One declaration: a property and its value. */
export type Style = readonly [property: string, value: string];

const read = new Map<string, readonly Style[]>();
const KEPT = 5_000;

/** The declarations of a style attribute (CSS Style Attributes); none of what cannot be read. */
export function stylesIn(attribute: string | undefined): readonly Style[] {
  if (!attribute) return [];
  const before = read.get(attribute);
  if (before) return before;
  const found: Style[] = [];
  try {
    postcss.parse(attribute).each((node) => {
      if (node.type === "decl") found.push([node.prop.toLowerCase(), node.value]);
    });
  } catch {
    // A browser would pass over it, too.
  }
  if (read.size >= KEPT) read.clear();
  read.set(attribute, found);
  return found;
}

/** The value of a property on an element; the last one counts. */
export const styleOf = (element: Element, property: string): string | undefined =>
  stylesIn(element.attribs.style).findLast(([name]) => name === property)?.[1];

/** Changes each declaration: null takes it away. Gives how many are other than before. */
export function restyle(element: Element, change: (style: Style) => string | null): number {
  const { style } = element.attribs;
  if (!style) return 0;
  let changed = 0;
  const left = stylesIn(style).flatMap(([property, value]) => {
    const next = change([property, value]);
    if (next !== value) changed++;
    return next === null ? [] : [`${property}:${next}`];
  });
  if (changed === 0) return 0;
  if (left.length) element.attribs.style = left.join(";");
  else delete element.attribs.style;
  return changed;
}

/** Changes the style sheets of a page; one that cannot be read is left as it is. Gives how many changes there were. */
export function inSheets(page: Page, change: (root: Root, element: Element) => number): number {
  let changed = 0;
  for (const element of named(page, "style")) {
    try {
      const root = postcss.parse(textOf(element));
      const own = change(root, element);
      if (own === 0) continue;
      changed += own;
      writeSheet(element, root.toString());
    } catch {
      // A browser reads what it can.
    }
  }
  return changed;
}

function writeSheet(element: Element, css: string): void {
  const [text] = element.children;
  if (text && "data" in text) text.data = css;
}

/** Changes each declaration of all sheets, as `restyle` does of an element. */
export const redeclare = (
  page: Page,
  change: (style: Style, declaration: Declaration) => string | null,
): number =>
  inSheets(page, (root) => {
    let changed = 0;
    root.walkDecls((declaration) => {
      const next = change([declaration.prop.toLowerCase(), declaration.value], declaration);
      if (next === declaration.value) return;
      changed++;
      if (next === null) declaration.remove();
      else declaration.value = next;
    });
    return changed;
  });
