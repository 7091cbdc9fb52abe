/** Rules and reach in words, as far as the last answer of who sees what knows them. */
import type { Rule } from "#core/rules/index.ts";
import { ruleKey } from "#core/text/index.ts";
import type { WhoSees } from "./who-sees.ts";

/** How many readers there are in all. */
export const readersIn = (whoSees: WhoSees | null): number =>
  whoSees?.groups.reduce((sum, { people }) => sum + people, 0) ?? 0;

/** A rule in words; in a chain no rule is the rest. */
export function ruleWords(rule: Rule | null, whoSees: WhoSees | null, chained: boolean): string {
  if (!rule) return chained ? "everybody else" : "everybody";
  const at = whoSees?.conditions.indexOf(ruleKey(rule)) ?? -1;
  return at < 0 ? "…" : whoSees!.words[at]!;
}
