/** What leads somewhere because the card it stands in does: all in it that is no link yet. */
import { textsOf } from "../blocks/index.ts";
import { type DocNode, valueAt, withValue } from "../document/index.ts";
import type { Json, JsonObject } from "../json.ts";
import { linkedThrough } from "../markup/index.ts";
import { isEmptyLink, isLink, type Link, type TextJson } from "../text/index.ts";

const kept = new WeakMap<Link, WeakMap<DocNode, DocNode>>();

/** A block and its items with every link that leads nowhere, and all words that are no link, leading to `to`. */
export function leadingTo(node: DocNode, to: Link): DocNode {
  const known = kept.get(to) ?? new WeakMap<DocNode, DocNode>();
  kept.set(to, known);
  const before = known.get(node);
  if (before) return before;
  let props: JsonObject = node.props;
  for (const { path, kind } of textsOf(node.type)) {
    if (kind === "line") continue;
    const text = valueAt(props, path) as unknown as TextJson | undefined;
    if (text) props = withValue(props, path, linkedThrough(text, to) as unknown as Json);
  }
  const own = props.to;
  if (typeof own === "object" && isLink(own as JsonObject) && isEmptyLink(own as unknown as Link)) {
    props = { ...props, to: to as unknown as Json };
  }
  const made = { ...node, props, children: node.children.map((child) => leadingTo(child, to)) };
  known.set(node, made);
  return made;
}
