/** Random rules and contacts' values, for property tests. */
import fc from "fast-check";
import { type Field, OPERATORS_BY_TYPE, type Rule } from "../rules/index.ts";
import { nastyText } from "./arbitrary-texts.ts";

export const FIELDS: readonly Field[] = [
  { id: "name", label: "Name", type: "text" },
  { id: "kind", label: "Kind", type: "choice", options: ["Friend", "Patron"] },
  { id: "count", label: "Count", type: "number" },
  { id: "since", label: "Since", type: "date" },
];

/** PostgreSQL's jsonb has neither NUL nor lone surrogates, so neither has a stored value. */
const storable = nastyText.map((text) => text.replaceAll("\u0000", "").toWellFormed());
const isoDay = fc
  .integer({ min: -4_000, max: 4_000 })
  .map((n) => new Date(Date.UTC(2026, 0, 1) + n * 86_400_000).toISOString().slice(0, 10));
const number = fc.oneof(
  fc.integer({ min: -50, max: 50 }),
  fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e9, max: 1e9 }),
);

/** Values with gaps, wrong types and unicode. */
export const valuesArbitrary = fc.record(
  {
    name: fc.oneof(storable, fc.constantFrom("", "Éloïse", "eloise", "ELOISE", "Straße", "İpek")),
    kind: fc.oneof(fc.constantFrom("Friend", "friend", "Patron", ""), fc.constant(null), number),
    count: fc.oneof(number, fc.constant("7"), fc.constant(null), fc.boolean()),
    since: fc.oneof(isoDay, fc.constantFrom("", "2026-1-1", "soon", "2026-01-01\n"), number),
  },
  { requiredKeys: [] },
);

const argumentFor = (op: string): fc.Arbitrary<unknown> => {
  if (["is", "isNot", "contains", "begins"].includes(op)) {
    return fc.oneof(
      fc.constantFrom("eloise", "Friend", "é", "ss", "i̇"),
      storable.filter((text) => text.trim() !== "").map((text) => text.trim()),
    );
  }
  if (op === "among") return fc.constantFrom(["Friend"], ["ELOISE", "patron"], ["straße", "x"]);
  if (["equals", "below", "above"].includes(op)) return number;
  if (op === "between")
    return fc.tuple(number, number).map(([a, b]) => [Math.min(a, b), Math.max(a, b)]);
  if (["on", "before", "after"].includes(op)) return isoDay;
  if (["withinLast", "withinNext"].includes(op)) return fc.integer({ min: 1, max: 4_000 });
  return fc.constant(null);
};

const testArbitrary: fc.Arbitrary<Rule> = fc
  .constantFrom(...FIELDS)
  .chain((field) =>
    fc
      .constantFrom(...OPERATORS_BY_TYPE[field.type])
      .chain((operator) =>
        argumentFor(operator.op).map(
          (argument) =>
            ({ type: "field", field: field.id, op: operator.op, argument }) as unknown as Rule,
        ),
      ),
  );
export const ruleArbitrary: fc.Arbitrary<Rule> = fc.letrec<{ rule: Rule }>((tie) => ({
  rule: fc.oneof(
    { maxDepth: 3 },
    testArbitrary,
    fc.record({
      type: fc.constantFrom("all" as const, "any" as const, "none" as const),
      rules: fc.array(tie("rule"), { maxLength: 3 }),
    }),
  ),
})).rule;
