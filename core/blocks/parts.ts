/** Parts of a block that can be switched off: a property belongs to the part of its own name, or to one its kind names. */
import { type DocNode, isItem } from "../document/index.ts";
import { isJsonObject } from "../json.ts";
import { nodeKind } from "./index.ts";

/** The part that a value in a node belongs to, by the way to it; null for none. */
export function partOf(node: DocNode, [property]: readonly string[]): string | null {
  const { parts } = node.props;
  if (property === undefined || !isJsonObject(parts)) return null;
  const part = nodeKind(node.type)?.partOf?.[property] ?? property;
  return part in parts ? part : null;
}

const isOff = (node: DocNode, part: string): boolean =>
  isJsonObject(node.props.parts) && node.props.parts[part] === false;

/**
 * Whether a value of a node is there at all: no part of the node that it belongs to is switched off, and none of
 * its name in what holds the node (the captions of a grid's pictures).
 */
export function isPartShown(
  node: DocNode,
  path: readonly string[],
  holder: DocNode | null = null,
): boolean {
  const own = partOf(node, path);
  if (own !== null && isOff(node, own)) return false;
  return !holder || !isItem(node.type) || !isOff(holder, path[0]!);
}

/** What a node holds, without items that a part of it has switched off. */
export const shownChildren = (node: DocNode): readonly DocNode[] =>
  nodeKind(node.type)?.showsItems?.(node.props) === false
    ? node.children.filter(({ type }) => !isItem(type))
    : node.children;

/** Everything in a node, itself first, with what it stands in; without items that a part has switched off. */
export function* walkShown(
  node: DocNode,
  holder: DocNode | null = null,
): Generator<{ readonly node: DocNode; readonly holder: DocNode | null }> {
  yield { node, holder };
  for (const child of shownChildren(node)) yield* walkShown(child, node);
}
