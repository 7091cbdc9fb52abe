import fc from "fast-check";
import { expect, it } from "vitest";
import { canonical, parseJson, sameJson } from "./json.ts";

it("spells equal values equally, whatever the order of their keys", () => {
  fc.assert(
    fc.property(fc.jsonValue(), (value) => {
      const shuffled = (v: unknown): unknown =>
        Array.isArray(v)
          ? v.map(shuffled)
          : v && typeof v === "object"
            ? Object.fromEntries(
                Object.entries(v)
                  .reverse()
                  .map(([k, inner]) => [k, shuffled(inner)]),
              )
            : v;
      expect(canonical(shuffled(value))).toBe(canonical(value));
      expect(JSON.parse(canonical(value))).toEqual(JSON.parse(JSON.stringify(value)));
    }),
  );
});

it("leaves undefined keys out and refuses what JSON cannot hold", () => {
  expect(canonical({ b: 1, a: undefined })).toBe('{"b":1}');
  expect(() => canonical(Number.NaN)).toThrow(TypeError);
  expect(() => canonical({ f: () => 1 })).toThrow(TypeError);
});

it("compares by spelling", () => {
  expect(sameJson({ a: [1, { b: 2, c: 3 }] }, { a: [1, { c: 3, b: 2 }] })).toBe(true);
  expect(sameJson([1, 2], [2, 1])).toBe(false);
});

it("refuses what nests without end, and nothing else", () => {
  const deep = (n: number) => `${"[".repeat(n)}1${"]".repeat(n)}`;
  expect(parseJson(deep(150))).not.toBeUndefined();
  expect(parseJson(deep(2_000))).toBeUndefined();
  expect(parseJson(`{"a":${'{"a":'.repeat(5_000)}`)).toBeUndefined();
  expect(parseJson(JSON.stringify("[".repeat(5_000)))).toBe("[".repeat(5_000));
  expect(parseJson(JSON.stringify(['"', "\\", '\\"[[']))).toEqual(['"', "\\", '\\"[[']);
});
