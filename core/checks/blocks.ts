import { blockKind, nodeKind } from "../blocks/index.ts";
import { shownChildren } from "../blocks/parts.ts";
import type { DocNode } from "../document/index.ts";
import type { BlockProps } from "../kinds/common.ts";
import { leadingTo } from "../render/index.ts";
import { isEmptyLink } from "../text/index.ts";
import type { Check } from "./check.ts";

/**
 * A node and all under it, as it is rendered: without what a part of its block has switched off, and leading where
 * the card around it leads.
 */
function* shown(node: DocNode): Generator<DocNode> {
  yield node;
  const to = blockKind(node.type)?.leadsAll?.(node.props as unknown as BlockProps);
  for (const child of shownChildren(node)) {
    yield* shown(to && !isEmptyLink(to) ? leadingTo(child, to) : child);
  }
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
