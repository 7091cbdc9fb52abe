import fc from "fast-check";
import { expect, it } from "vitest";
import { cutOff } from "./cut.ts";

/** Every character is ten pixels wide. */
const measure = (text: string) => [...text].length * 10;

it("shows what fits, and tells what is cut off", () => {
  expect(cutOff("Short", 100, 1, measure)).toEqual({ lines: ["Short"], rest: "" });
  expect(cutOff("Autumn walks begin", 100, 1, measure)).toEqual({
    lines: ["Autumn wa…"],
    rest: "lks begin",
  });
  expect(cutOff("Autumn walks begin on Monday", 130, 2, measure)).toEqual({
    lines: ["Autumn walks", "begin on Mon…"],
    rest: "day",
  });
});

it("never takes a character apart, nor loses one", () => {
  expect(cutOff("👩‍🌾👩‍🌾👩‍🌾", 60, 1, (text) => text.length * 10).lines[0]).toBe("👩‍🌾…");
  fc.assert(
    fc.property(
      fc.string(),
      fc.integer({ min: 10, max: 200 }),
      fc.integer({ min: 1, max: 3 }),
      (text, width, lines) => {
        const cut = cutOff(text, width, lines, measure);
        const whole = cut.lines.join("").replace(/…$/, cut.rest ? "" : "…") + cut.rest;
        const plain = (s: string) => s.replace(/\s+/g, "");
        expect(plain(whole)).toBe(plain(text));
        expect(cut.lines.length).toBeLessThanOrEqual(lines);
      },
    ),
  );
});
