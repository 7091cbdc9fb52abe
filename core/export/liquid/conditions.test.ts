/** Groups of comparisons in fewer steps: what they say stays the same. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Said } from "../../rules/index.ts";
import { simpler } from "./conditions.ts";

const [a, b, c] = ["a == 1", "b contains 2", "c != 3"].map((say) => ({ say })) as [
  Said,
  Said,
  Said,
];

/** Whether it holds where some facts do. */
function holds(said: Said, facts: Readonly<Record<string, boolean>>): boolean {
  if ("say" in said) {
    const [, left, sign] = /^(\S+) (\S+)/.exec(said.say)!;
    // What stands in "!=" holds where the fact does not.
    return sign === "!=" ? !facts[left!] : facts[left!]!;
  }
  if ("all" in said) return said.all.every((one) => holds(one, facts));
  if ("any" in said) return said.any.some((one) => holds(one, facts));
  return !said.none.some((one) => holds(one, facts));
}

const { said } = fc.letrec<{ said: Said }>((tie) => ({
  said: fc.oneof(
    { maxDepth: 4 },
    fc.constantFrom<Said>(a, b, c),
    fc.array(tie("said"), { maxLength: 3 }).map((all): Said => ({ all })),
    fc.array(tie("said"), { maxLength: 3 }).map((any): Said => ({ any })),
    fc.array(tie("said"), { minLength: 1, maxLength: 3 }).map((none): Said => ({ none })),
  ),
}));

const kindOf = (one: Said) => ["say", "all", "any", "none"].find((kind) => kind in one)!;
const groupsIn = (one: Said): Said[] =>
  "say" in one
    ? []
    : [one, ...("all" in one ? one.all : "any" in one ? one.any : one.none).flatMap(groupsIn)];

describe("groups in fewer steps", () => {
  it("open what is in them, and become what alone is in them", () => {
    expect(simpler({ all: [{ all: [a, { any: [b] }] }, c] })).toEqual({ all: [a, b, c] });
    expect(simpler({ any: [{ any: [a, { all: [b] }] }, c] })).toEqual({ any: [a, b, c] });
    expect(simpler({ none: [a] })).toEqual({ say: "a != 1" });
    expect(simpler({ none: [a, c] })).toEqual({ all: [{ say: "a != 1" }, { say: "c == 3" }] });
    expect(simpler({ none: [b] })).toEqual({ none: [b] });
    expect(simpler({ none: [{ none: [b] }] })).toEqual(b);
  });

  it("mean the same, and hold no group of their own kind", () => {
    const facts = fc.record({ a: fc.boolean(), b: fc.boolean(), c: fc.boolean() });
    fc.assert(
      fc.property(said, facts, (one, facts) => {
        const fewer = simpler(one);
        expect(holds(fewer, facts)).toBe(holds(one, facts));
        for (const group of groupsIn(fewer)) {
          const inner = "all" in group ? group.all : "any" in group ? group.any : [];
          expect(inner.map(kindOf)).not.toContain(kindOf(group));
          // A group of one is what is in it; an empty one stands alone.
          expect(inner).not.toHaveLength(1);
          if (inner.length === 0 && !("none" in group)) expect(group).toBe(fewer);
        }
      }),
      { numRuns: 500 },
    );
  });
});
