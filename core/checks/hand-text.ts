import { labelOf } from "../blocks/index.ts";
import { walk } from "../document/index.ts";
import { type HandText, handParts } from "../kinds/hand-text.ts";
import { handTextOf } from "../render/index.ts";
import { parseLiquid } from "../text/index.ts";
import type { Check } from "./check.ts";

/** Plain text written by hand: stale where its block has changed since, odd where braces are no tag. */
export const handText: Check = {
  id: "hand-text",
  run: ({ doc, surroundings }) =>
    [...walk(doc.root)].flatMap((node) => {
      const hand = node.props.plain as HandText | null | undefined;
      if (!hand) return [];
      const at = { check: "hand-text", severity: "look" as const, at: node.id, in: ["plain"] };
      const findings = [];
      if (hand.of !== handTextOf(doc, node.id, surroundings).of) {
        findings.push({
          ...at,
          message: `The plain text of a ${labelOf(node).toLowerCase()} may be stale`,
          detail: "It was written by hand, and the block has changed since.",
        });
      }
      const problems = handParts(hand).flatMap(({ source }) => parseLiquid(source).problems);
      if (problems.length > 0) {
        findings.push({
          ...at,
          message: "Plain text written by hand has braces that are no merge tag",
          detail: `Readers see them as they are: ${problems.slice(0, 3).join(", ")}.`,
        });
      }
      return findings;
    }),
};
