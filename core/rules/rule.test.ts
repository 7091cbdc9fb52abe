import fc from "fast-check";
import { expect, describe as group, it } from "vitest";
import { fold, keysOf } from "../fields/index.ts";
import { nowIn } from "../schedule/index.ts";
import { argumentFor, ruleArbitrary, SCHEMA, SEGMENTS } from "../testing/arbitrary-rules.ts";
import {
  compileRule,
  describe,
  didOnce,
  isCircle,
  OPERATORS,
  type Rule,
  ruleProblem,
  ruleSchema,
  ruleSql,
  type World,
} from "./index.ts";

const world: World = {
  ...SCHEMA,
  segments: SEGMENTS,
  now: nowIn("Europe/London", new Date("2026-03-02T10:00:00Z")),
  names: new Map([
    ["list:a", "Volunteers"],
    ["segment:friends", "Friends"],
    ["campaign:one", "March"],
    ["product:p1", "Foxglove seed"],
    ["record:sites:2", "Saltmere"],
  ]),
};
const test = (field: string, op: string, argument: unknown = null) =>
  ({ type: "field", field, op, argument }) as Rule;
const fits = (rule: Rule, values: Record<string, unknown>) =>
  compileRule(
    rule,
    world,
  )({
    keys: { email: "a@example.org", ...keysOf(values as never, world.fields) },
    lists: new Set(["a"]),
    activity: [],
    record: (_table, id) => (id === 2 ? { beds: 9, name: "saltmere" } : null),
  });
const words = (rule: Rule) => describe(rule, world);

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
    expect(fits(test("name", "noValue"), {})).toBe(true);
  });
  it("counts days from today, today included", () => {
    expect(fits(test("since", "withinLast", 1), { since: "2026-03-02" })).toBe(true);
    expect(fits(test("since", "withinLast", 1), { since: "2026-03-01" })).toBe(false);
    expect(fits(test("since", "withinNext", 2), { since: "2026-03-03" })).toBe(true);
    expect(fits(test("since", "withinNext", 2), { since: "2026-03-04" })).toBe(false);
    expect(fits(test("since", "longerAgo", 10), { since: "2026-02-20" })).toBe(false);
    expect(fits(test("since", "longerAgo", 10), { since: "2026-02-19" })).toBe(true);
  });
  it("finds anniversaries over the end of a year, and those of 29 February every year", () => {
    const within = (today: string, days: number, since: string) =>
      compileRule(test("since", "anniversaryWithin", days), {
        ...world,
        now: { ...world.now, today },
      })({ keys: { since }, lists: new Set(), activity: [], record: () => null });
    expect(within("2026-12-30", 4, "1980-01-02")).toBe(true);
    expect(within("2026-12-30", 3, "1980-01-02")).toBe(false);
    expect(within("2026-02-27", 2, "2000-02-29")).toBe(true);
    expect(within("2028-02-27", 2, "2000-02-29")).toBe(false);
    expect(within("2028-02-28", 2, "2000-02-29")).toBe(true);
    expect(within("2026-05-01", 366, "2000-02-29")).toBe(true);
  });
  it("is false where its field is gone", () => {
    expect(fits(test("gone", "hasValue"), { gone: "x" })).toBe(false);
  });
  it("reads the mail address like a field, and a record's fields through the pointer", () => {
    expect(fits(test("email", "contains", "EXAMPLE.org"), {})).toBe(true);
    expect(fits(test("site.beds", "above", 8), { site: 2 })).toBe(true);
    expect(fits(test("site.name", "is", "Saltmere"), { site: 2 })).toBe(true);
    expect(fits(test("site.beds", "above", 8), { site: 1 })).toBe(false);
    expect(fits(test("site.beds", "noValue"), { site: 1 })).toBe(true);
  });
  it("measures distances", () => {
    const near = (km: number) =>
      fits(test("home", "within", { lat: 51.5, lon: 0, km, name: "" }), {
        home: { lat: 51.5, lon: 1, name: "" },
      });
    expect([near(69), near(70)]).toEqual([false, true]);
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
    expect(words(rule)).toBe(
      "Count is more than 6 and (Kind is “Friend” or Kind is “Patron”) and not (Since is before 31 January 2020)",
    );
  });
  it("says between which days something was done", () => {
    const opened = (when: object | null) =>
      words({
        ...{ type: "activity", did: "opened", campaign: null, link: null, item: null, group: null },
        ...{ times: { op: "atLeast", count: 1 }, when },
      } as never);
    const [march, april] = ["2026-03-30", "2026-04-02"];
    expect(opened({ from: march, to: april })).toContain("from 30 March 2026 to 2 April 2026");
    expect(opened({ from: march, to: null })).toContain("since 30 March 2026");
    expect(opened({ from: null, to: april })).toContain("until 2 April 2026");
    expect(opened({ last: 1 })).toContain("within the last day");
    expect(opened({ last: 7 })).toContain("within the last 7 days");
    expect(opened(null)).not.toMatch(/since|until|from|within/);
  });

  it("says when nobody or everybody is meant", () => {
    expect(words({ type: "any", rules: [] })).toBe("nobody");
    expect(words({ type: "all", rules: [] })).toBe("everybody");
    expect(words(test("gone", "is", "x"))).toContain("gone");
  });
  it("names records, lists, segments, campaigns and products", () => {
    expect(words(test("site", "isRecord", 2))).toBe("Site is “Saltmere”");
    expect(words(test("site.beds", "above", 3))).toBe("Site › Beds is more than 3");
    expect(words({ type: "list", list: "a", is: false })).toBe("is not on the list “Volunteers”");
    expect(words({ type: "segment", segment: "friends", is: true })).toBe(
      "is in the segment “Friends”",
    );
    expect(words({ ...didOnce("opened", 90), times: { op: "atLeast", count: 3 } })).toBe(
      "opened at least 3 emails within the last 90 days",
    );
    expect(words({ ...didOnce("clicked"), campaign: "one", link: 2 })).toBe(
      "clicked in link 2 of “March”",
    );
    expect(words({ ...didOnce("opened"), times: { op: "atMost", count: 0 } })).toBe(
      "never opened an email",
    );
    expect(words({ ...didOnce("bought", 1), item: "p1" })).toBe(
      "bought “Foxglove seed” within the last day",
    );
    expect(words({ ...didOnce("sent"), campaign: "lost" })).toContain("gone");
  });
  it("has a sentence for every operator, which holds the field and what it is compared with", () => {
    for (const { op, types, words: say, argument } of OPERATORS) {
      expect(types.length).toBeGreaterThan(0);
      fc.assert(
        fc.property(argumentFor(op), (value) => {
          expect(argument.safeParse(value).success).toBe(true);
          const sentence = say("The field", value, (_kind, id) => `“${id}”`);
          expect(sentence.startsWith("The field ")).toBe(true);
          const shown = typeof value === "string" && op.match(/^(is|contains|begins)/);
          if (shown) expect(sentence).toContain(value);
        }),
        { numRuns: 20 },
      );
    }
  });
  it("refuses what the database could not keep", () => {
    const at = (argument: unknown) =>
      ruleSchema.safeParse(test("name", "is", argument as never)).success;
    expect([at("plain"), at("with a \0 in it")]).toEqual([true, false]);
    const within: Rule = { type: "any", rules: [test("name", "among", ["x", "\0"] as never)] };
    expect(ruleSchema.safeParse(within).success).toBe(false);
  });
  it("reads segments within segments once each, however often they are named", () => {
    const deep = 40;
    const segment = (id: string): Rule => ({ type: "segment", segment: id, is: true });
    const segments = new Map<string, Rule>([["s0", test("name", "is", "x" as never)]]);
    for (let i = 1; i <= deep; i++) {
      const named = segment(`s${i - 1}`);
      segments.set(`s${i}`, { type: "any", rules: [named, named] });
    }
    const deepWorld = { ...world, segments };
    expect(typeof compileRule(segment(`s${deep}`), deepWorld)).toBe("function");
    // As SQL there is no naming: what would double at every level is refused, with a word.
    expect(ruleProblem(segment(`s${deep}`), deepWorld)).toContain("too often");
    expect(ruleProblem(segment("s8"), deepWorld)).toBeNull();
    expect(JSON.stringify(ruleSql(segment(`s${deep}`), deepWorld)).length).toBeLessThan(200);
  });
  it("says something of any rule", () => {
    fc.assert(
      fc.property(ruleArbitrary, (rule) => {
        expect(words(rule)).not.toMatch(/undefined|null|^$/);
      }),
    );
  });
});

group("a rule's schema", () => {
  it("names what is wrong", () => {
    const fine = (rule: unknown) => ruleSchema.safeParse(rule).success;
    expect(fine(test("name", "is", "x"))).toBe(true);
    expect(fine(test("name", "is", ""))).toBe(false);
    expect(fine(test("count", "between", [5, 1]))).toBe(false);
    expect(fine(test("since", "on", "2026-02-31"))).toBe(false);
    expect(fine(test("name", "sounds like", "x"))).toBe(false);
    expect(fine({ ...didOnce("opened"), times: { op: "atLeast", count: -1 } })).toBe(false);
    let deep: Rule = test("name", "hasValue");
    for (let i = 0; i < 9; i++) deep = { type: "all", rules: [deep] };
    expect(fine(deep)).toBe(false);
  });
  it("takes every rule that can be built", () => {
    fc.assert(
      fc.property(ruleArbitrary, (rule) => {
        expect(ruleSchema.parse(rule)).toEqual(rule);
      }),
    );
  });
  it("checks a rule against what there is", () => {
    expect(ruleProblem(test("count", "contains", "x"), world)).toContain("Count");
    expect(ruleProblem({ type: "all", rules: [test("gone", "is", "x")] }, world)).toContain("gone");
    expect(ruleProblem({ type: "list", list: "lost", is: true }, world)).toContain("gone");
    expect(ruleProblem({ ...didOnce("sent"), campaign: "lost" }, world)).toContain("gone");
    expect(ruleProblem(test("count", "above", 3), world)).toBeNull();
  });
  it("finds segments that would hold themselves", () => {
    const named = (segment: string): Rule => ({ type: "segment", segment, is: true });
    expect(isCircle("new", named("new"), SEGMENTS)).toBe(true);
    expect(isCircle("friends", named("round"), SEGMENTS)).toBe(false);
    const around = new Map([...SEGMENTS, ["friends", named("trip")]] as [string, Rule][]);
    expect(isCircle("round", named("friends"), around)).toBe(true);
  });
});

group("folding", () => {
  it("is the same for what reads the same", () => {
    expect(fold("Ångström")).toBe("angstrom");
    expect(fold("e\u0301")).toBe(fold("é"));
    expect(fold(fold("İSTANBUL"))).toBe(fold("İSTANBUL"));
  });
});
