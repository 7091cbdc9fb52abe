import fc from "fast-check";
import { expect, it } from "vitest";
import { pageColours } from "./page.ts";
import { COLOUR_ROLES, contrast, type Palette, STANDARD_THEME } from "./theme.ts";

const hex = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, "0")}`);
const palettes = fc.record(
  Object.fromEntries(Object.keys(COLOUR_ROLES).map((role) => [role, hex])),
) as unknown as fc.Arbitrary<Palette>;

it("keeps a theme that can be read as it is", () => {
  const { colours } = STANDARD_THEME;
  const page = pageColours(colours, "#a63d1e");
  for (const role of ["ground", "sheet", "ink", "quiet", "accent", "onAccent"] as const) {
    expect(page[role], role).toBe(colours[role]);
  }
  expect(page.wrong).toBe("#a63d1e");
});

it("makes pages that can be read of whatever colours a theme has", () => {
  fc.assert(
    fc.property(palettes, hex, (palette, red) => {
      const page = pageColours(palette, red);
      for (const ink of [page.ink, page.quiet, page.accent, page.wrong]) {
        for (const ground of [page.ground, page.sheet]) {
          expect(contrast(ink, ground)).toBeGreaterThanOrEqual(4.5);
        }
      }
      expect(contrast(page.onAccent, page.accent)).toBeGreaterThanOrEqual(4.5);
      expect(contrast(page.accent, page.tint)).toBeGreaterThanOrEqual(4.5);
    }),
    { numRuns: 500 },
  );
});
