import { expect, it } from "vitest";
import { createBlock } from "../blocks/index.ts";
import type { Rule } from "../rules/index.ts";
import { emailOf, SURROUNDINGS } from "../testing/rendered.ts";
import { doc, ruleKey } from "../text/index.ts";
import { runChecks } from "./index.ts";

let n = 0;
const id = () => `z${++n}`;
const named: Rule = { type: "field", field: "first", op: "hasValue", argument: null };
const part = (kilobytes: number, seenBy?: Rule) =>
  createBlock("text", id, {
    words: doc(...Array.from({ length: kilobytes }, () => "x".repeat(1_000))),
    ...(seenBy && { seenBy, chain: "c" }),
  });
const found = (email: ReturnType<typeof emailOf>, groups: { bits: string; people: number }[]) =>
  runChecks(email, SURROUNDINGS, new Map(), {
    conditions: [ruleKey(named)],
    groups: groups.map((group, i) => ({ ...group, sample: i + 1 })),
    problems: [null],
    today: "2026-05-01",
  }).filter(({ check }) => check === "size");

const some = [
  { bits: "1", people: 7 },
  { bits: "0", people: 1 },
];
const apart = () =>
  emailOf([
    part(70, named),
    createBlock("text", id, {
      words: doc(...Array.from({ length: 70 }, () => "y".repeat(1_000))),
      chain: "c",
    }),
  ]);

it("weighs what each version is, and not what nobody gets at once", () => {
  expect(found(apart(), some)).toEqual([]);
  // Before anybody has been counted it is what all of it weighs.
  expect(found(apart(), [])).toHaveLength(1);
});

it("says how many would get too much", () => {
  const [finding] = found(emailOf([part(60), part(60, named)]), some);
  expect(finding!.detail).toContain("7 readers would get it.");
  expect(finding!.message).toMatch(/^The HTML is too large: 1[23]\d KB$/);
  expect(found(emailOf([part(60), part(60, named)]), [{ bits: "0", people: 1 }])).toEqual([]);
  expect(found(emailOf([part(60)]), some)).toEqual([]);
});
