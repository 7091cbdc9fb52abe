import fc from "fast-check";
import { expect, it } from "vitest";
import { type FontMeasure, fallbackFor, LETTERS } from "./fallbacks.ts";
import { FONTS } from "./theme.ts";

const measure: fc.Arbitrary<FontMeasure> = fc.record({
  width: fc.double({ min: 0.25, max: 0.8, noNaN: true }),
  xHeight: fc.double({ min: 0.3, max: 0.7, noNaN: true }),
  shape: fc.constantFrom("serif", "sans", "mono"),
});

it("takes a font of the same shape, and of those the one whose lines break most alike", () => {
  const sans = (width: number) => fallbackFor({ width, xHeight: 0.52, shape: "sans" });
  expect(sans(0.44)).toEqual({ font: "plainSans", wider: 1, larger: 0 });
  expect(sans(0.53)).toMatchObject({ font: "wideSans", wider: -4 });
  expect(fallbackFor({ width: 0.6, xHeight: 0.5, shape: "mono" }).font).toBe("mono");
  expect(fallbackFor({ width: 0.6, xHeight: 0.5, shape: "serif" })).toMatchObject({
    ...{ font: "bookSerif", wider: -26 },
  });
});

it("stays within the shape of any font, and says in whole numbers how its stand-in differs", () => {
  const serif = new Set(["bookSerif"]);
  const mono = new Set(["mono"]);
  fc.assert(
    fc.property(measure, (font) => {
      const found = fallbackFor(font);
      expect(Object.keys(FONTS)).toContain(found.font);
      expect(serif.has(found.font)).toBe(font.shape === "serif");
      expect(mono.has(found.font)).toBe(font.shape === "mono");
      expect(Number.isInteger(found.wider) && Number.isInteger(found.larger)).toBe(true);
      // The wider a font is, the narrower is what stands in for it.
      const wider = fallbackFor({ ...font, width: font.width * 2, shape: "mono" });
      expect(wider.wider).toBeLessThanOrEqual(fallbackFor({ ...font, shape: "mono" }).wider);
    }),
  );
});

it("knows how often every letter stands", () => {
  expect(Object.keys(LETTERS).sort().join("")).toBe(" abcdefghijklmnopqrstuvwxyz");
  const all = Object.entries(LETTERS).reduce((sum, [, often]) => sum + often, 0);
  expect(Math.abs(all - LETTERS[" "]! - 1_000)).toBeLessThan(10);
});
