import { nameOf } from "../blocks/names.ts";
import type { DocNode } from "../document/index.ts";
import type { Finding } from "../kinds/kind.ts";
import type { Seen } from "../text/index.ts";
import { ruleKey } from "../text/index.ts";
import { chainReach, conditionalParts, reachOf } from "../versions/index.ts";
import { trimmed } from "../words.ts";
import { type Check, readersIn } from "./check.ts";

/** The chains among neighbours: their nodes by the chain's name. */
function* chainsIn(node: DocNode): Generator<DocNode[]> {
  const chains = new Map<string, DocNode[]>();
  for (const child of node.children) {
    const { chain } = child.props as Partial<Seen>;
    if (typeof chain === "string") chains.set(chain, [...(chains.get(chain) ?? []), child]);
  }
  yield* chains.values();
  for (const child of node.children) yield* chainsIn(child);
}

/** Rules that speak of what is gone stop a send; parts for nobody, gaps and overlaps are worth a look. */
export const whoSees: Check = {
  id: "who-sees",
  run({ doc, readers: known }) {
    if (!known) return [];
    const { conditions, groups, problems } = known;
    const findings: Finding[] = [];
    const add = (severity: Finding["severity"], message: string, detail: string, at: string) =>
      findings.push({ check: "who-sees", severity, message, detail, at, people: null });
    const parts = conditionalParts(doc);
    for (const { node, seen, words, when } of parts) {
      const at = node.type === "email" ? "envelope" : node.id;
      const name = words === null ? nameOf(node) : `“${trimmed(words, 40)}”`;
      const problem = seen.seenBy && problems[conditions.indexOf(ruleKey(seen.seenBy))];
      if (problem) add("stop", `The rule of ${name} cannot be read`, problem, at);
      // The rest of a chain may well be nobody; where a rule is written, somebody is meant.
      else if (seen.seenBy && groups.length > 0 && reachOf(when, conditions, groups) === 0) {
        add("look", `Nobody sees ${name}`, "No reader of this campaign fits its rule.", at);
      }
    }
    const ofParts = new Set(parts.flatMap(({ seen }) => (seen.seenBy ? ruleKey(seen.seenBy) : [])));
    for (const [i, problem] of problems.entries()) {
      if (problem && !ofParts.has(conditions[i]!)) {
        add("stop", "The rule of a derived tag cannot be read", problem, "email");
      }
    }
    for (const chain of chainsIn(doc.root)) {
      const seen = chain.map(({ props }) => props as unknown as Seen);
      const { none, several } = chainReach(seen, conditions, groups);
      const name = `the alternatives of ${nameOf(chain[0]!)}`;
      if (none > 0) {
        add(
          "look",
          `${readersIn(none)} ${none === 1 ? "sees" : "see"} none of ${name}`,
          "Add one for everybody else, or leave it: nothing stands there then.",
          chain[0]!.id,
        );
      }
      if (several > 0) {
        add(
          "look",
          `More than one of ${name} fits ${readersIn(several)}`,
          "The first that fits is seen.",
          chain[0]!.id,
        );
      }
    }
    return findings;
  },
};
