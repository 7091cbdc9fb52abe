import { expect, it } from "vitest";
import { contrastsOf } from "./contrasts.ts";
import {
  COLOUR_ROLES,
  type ColourRole,
  colourOf,
  contrast,
  FOLLOWS,
  follows,
  hexOf,
  luminance,
  resolveColour,
  STANDARD_THEME,
  spacingIn,
  spacingOf,
  themeSchema,
} from "./theme.ts";

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

const ROLES = Object.keys(COLOUR_ROLES) as ColourRole[];

it("gives a role that says nothing the colour of the one it follows, to the end of the way", () => {
  const { colours } = STANDARD_THEME;
  expect(colourOf(colours, "outline")).toBe(colours.accent);
  const own = { ...colours, button: "#884400" };
  expect(["button", "outline", "link"].map((role) => colourOf(own, role as ColourRole))).toEqual([
    "#884400",
    "#884400",
    colours.accent,
  ]);
  expect(resolveColour("outline", { colours: { ...own, outline: "#004488" } })).toBe("#004488");
  const levels = { ...colours, heading2: "#224466" };
  expect(
    ["heading", "heading2", "heading3"].map((role) => colourOf(levels, role as ColourRole)),
  ).toEqual([...[colours.accent, "#224466", "#224466"]]);
  // Every way ends at a role that each theme fills.
  for (const role of ROLES) {
    let at = role;
    for (let steps = 0; follows(at); steps++) {
      expect(steps).toBeLessThan(ROLES.length);
      at = FOLLOWS[at];
    }
    expect(colours[at]).toMatch(/^#/);
  }
});

it("asks of every theme the leading roles, and of none the others", () => {
  const takes = (colours: object) => themeSchema.safeParse({ ...STANDARD_THEME, colours }).success;
  for (const role of ROLES) {
    const { [role]: _, ...without } = STANDARD_THEME.colours;
    expect([role, takes(without)]).toEqual([role, follows(role)]);
    expect(takes({ ...STANDARD_THEME.colours, [role]: "#123456" })).toBe(true);
    expect(takes({ ...STANDARD_THEME.colours, [role]: "red" })).toBe(false);
  }
  expect(takes({ ...STANDARD_THEME.colours, sidebar: "#123456" })).toBe(false);
});

it("tells the contrast of a role that follows once, with that of the other, and of one that does not by itself", () => {
  const { colours } = STANDARD_THEME;
  const told = (palette: typeof colours) =>
    contrastsOf(palette).map(({ ink, ground }) => `${ink} on ${ground}`);
  expect(told(colours)).toHaveLength(10);
  const own = told({ ...colours, heading: "#554433", footer: "#222222" });
  expect(own).toContain("heading on tint");
  expect(own).toContain("onFooter on footer");
  expect(own).not.toContain("link on tint");
  expect(own).not.toContain("onMasthead on masthead");
  expect(
    contrastsOf({ ...colours, button: "#eeeeee" }).filter(({ holds }) => !holds),
  ).toMatchObject(
    [...["sheet", "tint", "ground", "card"], "button"].map((ground) =>
      ground === "button"
        ? { ink: "onButton", ground }
        : ground === "card"
          ? { ink: "outline", ground: "card" }
          : { ink: "outline", ground },
    ),
  );
});

it("reads steps of spacing as people write them, and refuses what is none", () => {
  expect(["0, 8, 16", "16 8;0", " 4 ", "8,8, 8"].map(spacingIn)).toEqual([
    [0, 8, 16],
    [0, 8, 16],
    [4],
    [8],
  ]);
  for (const none of ["", "a", "8, b", "-4", "1.5", "121", "1 2 3 4 5 6 7 8 9"]) {
    expect([none, spacingIn(none)]).toEqual([none, null]);
  }
  expect(spacingOf(STANDARD_THEME)).toEqual([0, 8, 16, 24, 32, 48]);
  const takes = (spacing: number[]) =>
    themeSchema.safeParse({ ...STANDARD_THEME, spacing }).success;
  expect([takes([0, 4]), takes([4, 0]), takes([4, 4]), takes([])]).toEqual([
    ...[true, false, false, false],
  ]);
});
