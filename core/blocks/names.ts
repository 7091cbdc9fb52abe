/** What nodes are called on screen. */
import type { DocNode } from "../document/index.ts";
import { isBlank, type TextJson, wordsOf } from "../text/index.ts";
import { labelOf, nodeKind } from "./index.ts";

/** Characters of a node's own words that stand in a sentence. */
const WORDS = 28;

/** The words that tell a node from others of its kind, or an empty text. */
function ownName(node: DocNode): string {
  if (node.type === "band") return typeof node.props.name === "string" ? node.props.name : "";
  const words = node.props.words as unknown as TextJson | undefined;
  if (node.type === "heading" && words && !isBlank(words)) return wordsOf(words).slice(0, WORDS);
  return nodeKind(node.type)?.name?.(node.props)?.slice(0, WORDS) ?? "";
}

/** What a node is called in a list: a band by its name, a heading by its words, others by their kind. */
export const nameOf = (node: DocNode): string => ownName(node) || labelOf(node);

/** What a node is called in a sentence. */
export const theOf = (node: DocNode): string =>
  ownName(node) ? `“${ownName(node)}”` : `the ${labelOf(node).toLowerCase()}`;
