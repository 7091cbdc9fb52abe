import { labelOf, textsOf } from "../blocks/index.ts";
import { isPlaceholder } from "../blocks/placeholders.ts";
import { type Check, placeOf } from "./check.ts";

/** Words that a block came with and that were to be written over: nobody is to get them. */
export const placeholders: Check = {
  id: "placeholder",
  run: ({ nodes }) =>
    nodes.flatMap(({ node }) =>
      textsOf(node.type)
        .filter(({ path }) => isPlaceholder(node, path))
        .map(({ label, path }) => ({
          check: "placeholder",
          severity: "stop" as const,
          message: `A ${labelOf(node).toLowerCase()} still has the words it came with`,
          detail: `${label}: write your own, or take it out.`,
          at: placeOf(node),
          in: path,
        })),
    ),
};
