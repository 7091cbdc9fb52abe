import { walk } from "../document/index.ts";
import type { Check } from "./check.ts";

/** A see-through picture may vanish where its ground goes dark, unless something stands behind it. */
export const seeThrough: Check = {
  id: "see-through",
  run: ({ doc, surroundings: { pictures } }) =>
    [...walk(doc.root)].flatMap((node) => {
      const { picture, backing } = node.props as { picture?: unknown; backing?: unknown };
      const alpha = typeof picture === "string" && pictures.get(picture)?.alpha;
      if (!alpha || backing !== null) return [];
      return [
        {
          check: "see-through",
          severity: "look" as const,
          message: "A see-through picture may vanish in the dark",
          detail: "Give it a ground of its own, if it is dark itself.",
          at: node.id,
        },
      ];
    }),
};
