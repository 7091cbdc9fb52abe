import { nodeKind } from "../blocks/index.ts";
import { type DocNode, isItem } from "../document/index.ts";
import type { Check } from "./check.ts";

/** A node and all under it that a part of its block has not switched off. */
function* shown(node: DocNode): Generator<DocNode> {
  yield node;
  const without = nodeKind(node.type)?.showsItems?.(node.props) === false;
  for (const child of node.children) if (!without || !isItem(child.type)) yield* shown(child);
}

/** The checks that block types, and the items in them, bring themselves: alt texts, links that lead nowhere. */
export const blockChecks: Check = {
  id: "blocks",
  run: ({ doc }) =>
    [...shown(doc.root)].flatMap((node) =>
      (nodeKind(node.type)?.checks?.(node.props, node) ?? []).map((finding) => ({
        ...finding,
        at: node.id,
      })),
    ),
};
