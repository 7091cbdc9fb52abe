import { nodeKind } from "../blocks/index.ts";
import { walk } from "../document/index.ts";
import type { Check } from "./check.ts";

/** The checks that block types, and the items in them, bring themselves: alt texts, links that lead nowhere. */
export const blockChecks: Check = {
  id: "blocks",
  run: ({ doc }) =>
    [...walk(doc.root)].flatMap((node) =>
      (nodeKind(node.type)?.checks?.(node.props, node) ?? []).map((finding) => ({
        ...finding,
        at: node.id,
      })),
    ),
};
