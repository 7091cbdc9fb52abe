import fc from "fast-check";
import { expect, it } from "vitest";
import { fold } from "./fold.ts";

it("folds a beginning as it folds in the whole", () => {
  expect(fold("ΟΔΟΣΑ").startsWith(fold("ΟΔΟΣ"))).toBe(true);
  const letters = fc.string({ unit: fc.constantFrom("Σ", "σ", "ς", "Α", "É", "ß", "x", " ") });
  fc.assert(
    fc.property(letters, letters, (one, two) => {
      expect(fold(one + two).startsWith(fold(one))).toBe(true);
      expect(fold(fold(one))).toBe(fold(one));
    }),
  );
});
