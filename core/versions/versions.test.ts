import fc from "fast-check";
import { expect, it } from "vitest";
import { mergeText, prepare } from "../merge/index.ts";
import { compile } from "../render/index.ts";
import { conditionalArbitrary, RULES } from "../testing/arbitrary-conditions.ts";
import { documentArbitrary } from "../testing/arbitrary-documents.ts";
import { DIRECT, SURROUNDINGS } from "../testing/rendered.ts";
import { EVERYBODY_KEY, ruleKey, type Seen } from "../text/index.ts";
import {
  chainReach,
  type Group,
  inEachLanguage,
  partsOf,
  reachOf,
  someoneWho,
  versionsOf,
} from "./index.ts";

/** People by which of the rules hold for each. */
const peopleArbitrary = fc.array(fc.tuple(...RULES.map(() => fc.boolean())), {
  minLength: 1,
  maxLength: 30,
});
const keys = RULES.map(ruleKey);
const bitsFor = (conditions: readonly string[], holds: readonly boolean[]) =>
  conditions.map((key) => (key === EVERYBODY_KEY || holds[keys.indexOf(key)] ? "1" : "0")).join("");

function grouped(conditions: readonly string[], people: readonly (readonly boolean[])[]): Group[] {
  const groups = new Map<string, Group>();
  people.forEach((holds, i) => {
    const bits = bitsFor(conditions, holds);
    const before = groups.get(bits);
    groups.set(bits, { bits, people: (before?.people ?? 0) + 1, sample: before?.sample ?? i });
  });
  return [...groups.values()];
}

it("finds the versions that merging for each reader in turn would give, with how many get each", () => {
  fc.assert(
    fc.property(
      documentArbitrary.chain(conditionalArbitrary),
      peopleArbitrary,
      (document, people) => {
        const email = compile(document, SURROUNDINGS);
        const versions = versionsOf(
          inEachLanguage(document, SURROUNDINGS),
          grouped(email.conditions, people),
        );
        const prepared = prepare(email, DIRECT);
        const read = (bits: string) => {
          const reader = { values: {}, token: "t", bits };
          const { html, text, subject, fromName } = prepared;
          return [html, text, subject, fromName].map((body) => mergeText(body, reader)).join("\0");
        };
        const brute = new Map<string, number>();
        for (const holds of people) {
          const message = read(bitsFor(email.conditions, holds));
          brute.set(message, (brute.get(message) ?? 0) + 1);
        }
        const ours = new Map<string, number>();
        for (const { bits, people: n } of versions) {
          const message = read(bits);
          // Parts that hold nothing make versions that read alike.
          ours.set(message, (ours.get(message) ?? 0) + n);
        }
        expect(ours).toEqual(brute);
        for (const { sample, bits } of versions) {
          expect(bitsFor(email.conditions, people[sample]!)).toBe(bits);
        }
      },
    ),
    { numRuns: 60 },
  );
});

const seenArbitrary: fc.Arbitrary<Seen> = fc.record({
  seenBy: fc.option(fc.constantFrom(...RULES), { nil: null, freq: 4 }),
  chain: fc.constant("c"),
});

it("counts who sees each alternative of a chain, who sees none, and who could see several", () => {
  fc.assert(
    fc.property(
      fc.array(seenArbitrary, { minLength: 1, maxLength: 5 }),
      peopleArbitrary,
      (chain, people) => {
        const conditions = [...keys, EVERYBODY_KEY];
        const { each, none, several } = chainReach(chain, conditions, grouped(conditions, people));
        const fits = (holds: readonly boolean[], seen: Seen) =>
          seen.seenBy === null || holds[keys.indexOf(ruleKey(seen.seenBy))]!;
        const firsts = people.map((holds) => chain.findIndex((seen) => fits(holds, seen)));
        expect(each).toEqual(chain.map((_, i) => firsts.filter((first) => first === i).length));
        expect(none).toBe(firsts.filter((first) => first < 0).length);
        expect(several).toBe(
          people.filter(
            (holds) => chain.filter((seen) => seen.seenBy && fits(holds, seen)).length > 1,
          ).length,
        );
      },
    ),
  );
});

it("finds someone for whom a combination of parts comes true, or says that there is nobody", () => {
  const groups: Group[] = [
    { bits: "10", people: 3, sample: 1 },
    { bits: "11", people: 5, sample: 2 },
    { bits: "00", people: 9, sample: 3 },
  ];
  const conditions = ["a", "b"];
  const [a, b] = [
    { all: ["a"], none: [] },
    { all: ["b"], none: [] },
  ];
  const wish = (when: typeof a, sees: boolean) => ({ when, sees });
  expect(someoneWho([wish(a, true)], conditions, groups)).toEqual({ sample: 2, people: 8 });
  expect(someoneWho([wish(a, true), wish(b, false)], conditions, groups)?.sample).toBe(1);
  expect(someoneWho([wish(a, false), wish(b, true)], conditions, groups)).toBeNull();
  expect(reachOf({ all: ["a"], none: ["b"] }, conditions, groups)).toBe(3);
  expect(reachOf(null, conditions, groups)).toBe(17);
  expect(partsOf({ html: [], text: [], subject: [], fromName: [] })).toEqual([]);
});
