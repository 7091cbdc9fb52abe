import { expect, it } from "vitest";
import { contrast, hexOf, luminance, resolveColour, STANDARD_THEME, themeSchema } from "./theme.ts";

it("computes contrast as WCAG defines it", () => {
  expect(luminance("#ffffff")).toBeCloseTo(1, 5);
  expect(contrast("#000000", "#ffffff")).toBeCloseTo(21, 5);
  expect(contrast("#777777", "#ffffff")).toBeCloseTo(4.48, 2);
  expect(contrast("#ffffff", "#777777")).toBe(contrast("#777777", "#ffffff"));
});

it("comes with colours that can be read", () => {
  const { colours } = STANDARD_THEME;
  for (const ground of [colours.sheet, colours.tint, colours.ground]) {
    for (const ink of [colours.ink, colours.quiet, colours.accent]) {
      expect(contrast(ink, ground)).toBeGreaterThan(4.5);
    }
  }
  expect(contrast(colours.onAccent, colours.accent)).toBeGreaterThan(4.5);
});

it("takes six-digit hex only", () => {
  const with_ = (accent: string) =>
    themeSchema.safeParse({
      ...STANDARD_THEME,
      colours: { ...STANDARD_THEME.colours, accent },
    }).success;
  expect(with_("#1f3d2e")).toBe(true);
  for (const bad of ["#fff", "red", "#12345678", "#1f3d2e;x"]) expect(with_(bad)).toBe(false);
  expect(resolveColour("accent", STANDARD_THEME)).toBe(STANDARD_THEME.colours.accent);
  expect(resolveColour("#123456", STANDARD_THEME)).toBe("#123456");
});

it("reads a colour as people write it", () => {
  expect(["#1F3D2E", "1f3d2e", " #fff ", "abc"].map(hexOf)).toEqual([
    "#1f3d2e",
    "#1f3d2e",
    "#ffffff",
    "#aabbcc",
  ]);
  expect(["", "#ff", "#ffff", "red", "#ggg"].map(hexOf)).toEqual([null, null, null, null, null]);
});
