/** Reading HTML back, for tests. */
import type { DefaultTreeAdapterMap } from "parse5";

export type Element = DefaultTreeAdapterMap["element"];
type Node = DefaultTreeAdapterMap["node"];

/** Every element under a node, in document order. */
export function* elements(node: Node): Generator<Element> {
  if ("tagName" in node) yield node;
  if ("childNodes" in node) for (const child of node.childNodes) yield* elements(child);
}

export const attributeOf = (element: Element, name: string): string | undefined =>
  element.attrs.find((attribute) => attribute.name === name)?.value;

/** The words under a node; elements that `skip` names are left out. */
export function wordsUnder(node: Node, skip: (element: Element) => boolean = () => false): string {
  if (node.nodeName === "#text") return (node as DefaultTreeAdapterMap["textNode"]).value;
  if ("tagName" in node && skip(node)) return "";
  if (!("childNodes" in node)) return "";
  return node.childNodes.map((child) => wordsUnder(child, skip)).join("");
}
