import { blockKind, labelOf } from "../blocks/index.ts";
import type { BlockProps } from "../kinds/common.ts";
import type { Check } from "./check.ts";

/** What is over on the day the checks run. */
export const ended: Check = {
  id: "ended",
  run: ({ nodes, today }) =>
    nodes.flatMap(({ node }) => {
      const until = blockKind(node.type)?.ends?.(node.props as unknown as BlockProps);
      const day = until?.slice(0, 10);
      if (!day || today === null || day >= today) return [];
      return [
        {
          check: "ended",
          severity: "stop" as const,
          message: `A ${labelOf(node).toLowerCase()} is over`,
          detail: `It was until ${day}.`,
          at: node.id,
          in: ["until"],
        },
      ];
    }),
};
