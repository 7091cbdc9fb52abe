import { blockKind } from "../blocks/index.ts";
import { walk } from "../document/index.ts";
import type { BlockProps } from "../kinds/common.ts";
import type { Check } from "./check.ts";

/** The checks that block types bring themselves: alt texts, links that lead nowhere. */
export const blockChecks: Check = {
  id: "blocks",
  run: ({ doc }) =>
    [...walk(doc.root)].flatMap((node) =>
      (blockKind(node.type)?.checks?.(node.props as unknown as BlockProps, node) ?? []).map(
        (finding) => ({ ...finding, at: node.id }),
      ),
    ),
};
