/** Segments that rules name, and that name others in turn. */
import { conditionsIn, type Rule } from "./rule.ts";
import type { World } from "./world.ts";

/** The segments a rule names, directly. */
export const segmentsNamed = (rule: Rule): string[] =>
  conditionsIn(rule).flatMap((one) => (one.type === "segment" ? [one.segment] : []));

/** Whether a segment with this rule would hold itself, by way of others. */
export function isCircle(id: string, rule: Rule, segments: World["segments"]): boolean {
  const seen = new Set<string>();
  const visit = (one: Rule): boolean =>
    segmentsNamed(one).some((named) => {
      if (named === id) return true;
      if (seen.has(named)) return false;
      seen.add(named);
      const next = segments.get(named);
      return next !== undefined && visit(next);
    });
  return visit(rule);
}
