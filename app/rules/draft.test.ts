import fc from "fast-check";
import { expect, it } from "vitest";
import { isGroup, type Rule } from "#core/rules/index.ts";
import { ruleArbitrary } from "#core/testing/arbitrary-rules.ts";
import {
  addTo,
  change,
  type Draft,
  depthOf,
  draftGroupOf,
  draftOf,
  isDraftGroup,
  newCondition,
  newGroup,
  ruleOf,
} from "./draft.ts";

const parts = (draft: Draft): Draft[] =>
  isDraftGroup(draft) ? [draft, ...draft.rules.flatMap(parts)] : [draft];
const test = (op: string) => ({ type: "field", field: "name", op, argument: "Ann" }) as Rule;

it("says what the rule says, with a key of its own on every part", () => {
  fc.assert(
    fc.property(ruleArbitrary, (rule) => {
      const draft = draftGroupOf(rule);
      expect(ruleOf(draftOf(rule))).toEqual(rule);
      expect(ruleOf(draft)).toEqual(isGroup(rule) ? rule : { type: "all", rules: [rule] });
      const keys = parts(draft).map(({ key }) => key);
      expect(new Set(keys).size).toBe(keys.length);
    }),
  );
});

it("changes one part alone, wherever it stands, and keeps the rest as it was", () => {
  fc.assert(
    fc.property(ruleArbitrary, fc.nat(), (rule, at) => {
      const draft = draftGroupOf(rule);
      const all = parts(draft);
      const one = all[at % all.length]!;
      const put = newCondition(test("is"));
      const changed = change(draft, one.key, () => (one === draft ? draft : put));
      if (one !== draft) {
        const kept = parts(changed).map(({ key }) => key);
        const gone = new Set(parts(one).map(({ key }) => key));
        expect(kept).toContain(put.key);
        expect(kept.filter((key) => key !== put.key)).toEqual(
          all.map(({ key }) => key).filter((key) => !gone.has(key)),
        );
      }
      expect(change(draft, "nowhere", () => null)).toBe(draft);
    }),
  );
});

it("takes a part out; the outermost group stays, empty", () => {
  const draft = draftGroupOf({ type: "any", rules: [test("is"), test("isNot")] });
  const without = change(draft, draft.rules[0]!.key, () => null);
  expect(ruleOf(without)).toEqual({ type: "any", rules: [test("isNot")] });
  expect(ruleOf(change(draft, draft.key, () => null))).toEqual({ type: "any", rules: [] });
});

it("adds to a group, at its end; a condition takes nothing in", () => {
  const inner = newGroup();
  const draft = addTo(draftGroupOf(test("is")), "nowhere", inner);
  const outer = addTo(draft, draft.key, inner);
  const full = addTo(outer, inner.key, newCondition(test("isNot")));
  expect(ruleOf(full)).toEqual({
    type: "all",
    rules: [test("is"), { type: "any", rules: [test("isNot")] }],
  });
  expect(addTo(full, full.rules[0]!.key, newCondition(test("is")))).toEqual(full);
});

it("counts how deep groups go", () => {
  expect(depthOf(draftOf(test("is")))).toBe(0);
  expect(depthOf(newGroup())).toBe(1);
  expect(
    depthOf(draftGroupOf({ type: "all", rules: [{ type: "any", rules: [test("is")] }] })),
  ).toBe(2);
});
