/** What HTML by hand loses in families of mail programs; all other blocks are written so that they hold. */
import { FAMILIES, showIn } from "../clients/index.ts";
import type { Check } from "./check.ts";

/** Losses that move things, and not only how they look. */
const MOVES = /^(places outside the flow|negative margins|boxes in a line|forms)$/;

export const unsupported: Check = {
  id: "unsupported",
  run: ({ nodes }) =>
    nodes.flatMap(({ node }) => {
      const { source } = node.props as { source?: unknown };
      if (node.type !== "html" || typeof source !== "string") return [];
      return FAMILIES.flatMap((family) => {
        const lost = showIn(family, source).lost.filter(({ what }) => MOVES.test(what));
        if (lost.length === 0) return [];
        return [
          {
            check: "unsupported",
            severity: "look" as const,
            message: `HTML by hand comes apart in the family “${family.label}”`,
            detail: `It loses ${lost.map(({ what }) => what).join(", ")} there. Look at it in the proof.`,
            at: node.id,
            in: ["source"],
          },
        ];
      });
    }),
};
