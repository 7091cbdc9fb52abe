import { expect, describe as group, it } from "vitest";
import { FIELDS } from "../testing/arbitrary-rules.ts";
import { compileRule, describe, fold, type Rule, ruleProblem, ruleSchema } from "./index.ts";

const fields = new Map(FIELDS.map((field) => [field.id, field]));
const now = { today: "2026-03-02" };
const test = (field: string, op: string, argument: unknown = null) =>
  ({ type: "field", field, op, argument }) as Rule;
const fits = (rule: Rule, values: Record<string, unknown>) =>
  compileRule(rule, fields, now)({ email: "a@example.org", values: values as never });

group("a rule in memory", () => {
  it("compares texts without case and accents", () => {
    expect(fits(test("name", "is", "Éloïse"), { name: "ELOISE" })).toBe(true);
    expect(fits(test("name", "begins", "elo"), { name: "Éloïse" })).toBe(true);
    expect(fits(test("name", "contains", "loi"), { name: "Éloïse" })).toBe(true);
  });
  it("takes no value for false, in none as well", () => {
    expect(fits(test("count", "below", 5), {})).toBe(false);
    expect(fits({ type: "none", rules: [test("count", "below", 5)] }, {})).toBe(true);
    expect(fits(test("name", "isNot", "x"), {})).toBe(false);
    expect(fits(test("name", "noValue"), { name: "" })).toBe(true);
    expect(fits(test("count", "equals", 7), { count: "7" })).toBe(false);
  });
  it("counts days from today, today included", () => {
    expect(fits(test("since", "withinLast", 1), { since: "2026-03-02" })).toBe(true);
    expect(fits(test("since", "withinLast", 1), { since: "2026-03-01" })).toBe(false);
    expect(fits(test("since", "withinNext", 2), { since: "2026-03-03" })).toBe(true);
    expect(fits(test("since", "withinNext", 2), { since: "2026-03-04" })).toBe(false);
  });
  it("is false where its field is gone", () => {
    expect(fits(test("gone", "hasValue"), { gone: "x" })).toBe(false);
  });
  it("reads the mail address like a field", () => {
    expect(fits(test("email", "contains", "EXAMPLE.org"), {})).toBe(true);
  });
});

group("a rule in words", () => {
  it("reads like a sentence", () => {
    const rule: Rule = {
      type: "all",
      rules: [
        test("count", "above", 6),
        { type: "any", rules: [test("kind", "is", "Friend"), test("kind", "is", "Patron")] },
        { type: "none", rules: [test("since", "before", "2020-01-31")] },
      ],
    };
    expect(describe(rule, fields)).toBe(
      "Count is more than 6 and (Kind is “Friend” or Kind is “Patron”) and not (Since is before 31 January 2020)",
    );
  });
  it("says when nobody or everybody is meant", () => {
    expect(describe({ type: "any", rules: [] }, fields)).toBe("nobody");
    expect(describe({ type: "all", rules: [] }, fields)).toBe("everybody");
    expect(describe(test("gone", "is", "x"), fields)).toContain("gone");
  });
});

group("a rule's schema", () => {
  it("names what is wrong", () => {
    const problem = (rule: unknown) => ruleSchema.safeParse(rule).success;
    expect(problem(test("name", "is", "x"))).toBe(true);
    expect(problem(test("name", "is", ""))).toBe(false);
    expect(problem(test("count", "between", [5, 1]))).toBe(false);
    expect(problem(test("since", "on", "2026-02-31"))).toBe(false);
    expect(problem(test("name", "sounds like", "x"))).toBe(false);
    let deep: Rule = test("name", "hasValue");
    for (let i = 0; i < 9; i++) deep = { type: "all", rules: [deep] };
    expect(problem(deep)).toBe(false);
  });
  it("checks an operator against its field", () => {
    expect(ruleProblem(test("count", "contains", "x"), fields)).toContain("Count");
    expect(ruleProblem({ type: "all", rules: [test("gone", "is", "x")] }, fields)).toContain(
      "gone",
    );
    expect(ruleProblem(test("count", "above", 3), fields)).toBeNull();
  });
});

group("folding", () => {
  it("is the same for what reads the same", () => {
    expect(fold("Ångström")).toBe("angstrom");
    expect(fold("e\u0301")).toBe(fold("é"));
    expect(fold(fold("İSTANBUL"))).toBe(fold("İSTANBUL"));
  });
});
