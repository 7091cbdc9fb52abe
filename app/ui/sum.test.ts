import fc from "fast-check";
import { expect, it } from "vitest";
import { sumOf } from "./sum.ts";

it.each([
  ["16", 16],
  [" 12 + 4 ", 16],
  ["24/2-3", 9],
  ["2*(3+4)", 14],
  ["-5 + 1,5", -3.5],
  ["8 × 2 ÷ 4 − 1", 3],
])("%s is %d", (text, value) => {
  expect(sumOf(text)).toBe(value);
});

it.each(["", "a", "12+", "(3", "3)", "1/0", "2 3", "12px", "1..2"])("“%s” is no sum", (text) => {
  expect(sumOf(text)).toBeNull();
});

it("gives a number or nothing for whatever is typed", () => {
  fc.assert(
    fc.property(fc.stringMatching(/^[0-9+*/() .,-]{0,20}$/), (text) => {
      const value = sumOf(text);
      expect(value === null || Number.isFinite(value)).toBe(true);
    }),
  );
});
