import fc from "fast-check";
import { expect, it } from "vitest";
import { smallestSet } from "./cover.ts";
import type { Version } from "./versions.ts";

const versionsArbitrary = (parts: number, most: number) =>
  fc.uniqueArray(
    fc
      .tuple(
        fc.constantFrom("en", "fr"),
        fc.array(fc.constantFrom("0", "1", "-"), { minLength: parts, maxLength: parts }),
      )
      .map(([lang, bits]): Version => {
        const key = `${lang}:${bits.join("")}`;
        return { key, lang, bits: "", people: 1, sample: 1 };
      }),
    { minLength: 1, maxLength: most, selector: ({ key }) => key },
  );

/** Everything that is seen in some versions: parts and languages, or all two of them. */
function seenIn(versions: readonly Version[], pairs: boolean): Set<string> {
  return new Set(
    versions.flatMap(({ key, lang }) => {
      const one = [lang, ...[...key.slice(3)].map((bit, i) => `${i}${bit}`)].filter(
        (trait) => !trait.endsWith("-"),
      );
      return pairs ? one.flatMap((a) => one.map((b) => `${a} ${b}`)) : one;
    }),
  );
}

it("shows everything that all versions together show", () => {
  fc.assert(
    fc.property(versionsArbitrary(6, 40), fc.boolean(), (versions, pairs) => {
      const few = smallestSet(versions, { pairs });
      expect(seenIn(few, pairs)).toEqual(seenIn(versions, pairs));
      expect(new Set(few).size).toBe(few.length);
      for (const one of few) expect(versions).toContain(one);
    }),
    { numRuns: 60 },
  );
});

it("is as small as can be", () => {
  fc.assert(
    fc.property(versionsArbitrary(4, 9), fc.boolean(), (versions, pairs) => {
      const all = seenIn(versions, pairs).size;
      let least = versions.length;
      for (let chosen = 1; chosen < 2 ** versions.length; chosen++) {
        const some = versions.filter((_, i) => chosen & (1 << i));
        if (some.length < least && seenIn(some, pairs).size === all) least = some.length;
      }
      expect(smallestSet(versions, { pairs })).toHaveLength(least);
    }),
    { numRuns: 30 },
  );
});

it("needs few of thousands: two where parts are shown by themselves, a handful for every two", () => {
  const versions = Array.from({ length: 4_096 }, (_, i): Version => {
    const key = `en:${i.toString(2).padStart(12, "0")}`;
    return { key, lang: "en", bits: "", people: 4_096 - i, sample: i };
  });
  expect(smallestSet(versions)).toHaveLength(2);
  expect(smallestSet(versions, { pairs: true }).length).toBeLessThanOrEqual(12);
});
