/** Themes from elsewhere: colours of an image, tokens of another tool; whatever comes in, words are read on their grounds. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { contrastsOf, faintPairs } from "./contrasts.ts";
import { pageFaces } from "./faces.ts";
import { apart, labOf } from "./oklab.ts";
import { clustered, darkFor, palettesFrom, proposedTheme } from "./proposal.ts";
import { SHIPPED_THEMES } from "./shipped.ts";
import {
  contrast,
  FOLLOWS,
  type Follower,
  ownFont,
  STANDARD_THEME,
  type Theme,
  themeSchema,
} from "./theme.ts";
import { fromTokens, toTokens } from "./tokens.ts";

const hex = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, "0")}`);
const weighted = fc.array(fc.record({ colour: hex, weight: fc.integer({ min: 0, max: 500 }) }), {
  maxLength: 40,
});

it("is read well in every theme that ships", () => {
  for (const theme of Object.values(SHIPPED_THEMES)) expect(faintPairs(theme)).toEqual([]);
  // Words in the colour of what they stand on are told, light and dark.
  const { colours, dark } = STANDARD_THEME;
  const faint = { ...colours, ink: colours.sheet };
  const told = faintPairs({ colours: faint, dark: null });
  expect(told.length).toBeGreaterThan(0);
  expect(faintPairs({ colours, dark: faint })).toEqual(told);
  expect(faintPairs({ colours: faint, dark })).toEqual(told);
  expect(contrastsOf(STANDARD_THEME.colours).every(({ ratio, least }) => ratio >= least)).toBe(
    true,
  );
});

describe("a theme from colours", () => {
  it("is read well whatever they are, light and dark, and is a theme", () => {
    fc.assert(
      fc.property(weighted, (colours) => {
        const theme = proposedTheme("Proposed", colours);
        expect(faintPairs(theme)).toEqual([]);
        expect(contrast(theme.colours.ink, theme.colours.sheet)).toBeGreaterThanOrEqual(7);
        expect(themeSchema.parse(theme)).toEqual(theme);
        // The same colours in another order make the same theme, but for what is equally heavy.
        expect(palettesFrom(colours)).toEqual(palettesFrom([...colours]));
      }),
      { numRuns: 150 },
    );
  });
  it("has dark partners for light colours that somebody chose, as easy to read and of their hue", () => {
    fc.assert(
      fc.property(weighted, (chosen) => {
        const theme = proposedTheme("Chosen", chosen);
        const dark = darkFor(theme.colours);
        expect(faintPairs({ ...theme, dark })).toEqual([]);
        expect(labOf(dark.sheet)[0]).toBeLessThan(0.35);
      }),
      { numRuns: 100 },
    );
    const green = darkFor(STANDARD_THEME.colours);
    const hue = (colour: string) => Math.atan2(labOf(colour)[2], labOf(colour)[1]);
    expect(Math.abs(hue(green.accent) - hue(STANDARD_THEME.colours.accent))).toBeLessThan(0.2);
  });
  it("takes the colour that stands out for its accent", () => {
    const logo = [
      { colour: "#ffffff", weight: 900 },
      { colour: "#f5f5f5", weight: 200 },
      { colour: "#7a1f3d", weight: 120 },
      { colour: "#2b2b2b", weight: 80 },
    ];
    expect(apart(labOf(proposedTheme("x", logo).colours.accent), labOf("#7a1f3d"))).toBeLessThan(
      0.05,
    );
    // A pale one is made darker until it is read, its hue stays.
    const pale = proposedTheme("x", [{ colour: "#ffd54a", weight: 10 }]).colours.accent;
    expect(contrast(pale, "#ffffff")).toBeGreaterThanOrEqual(4.5);
    const [, a, b] = labOf(pale);
    const [, a0, b0] = labOf("#ffd54a");
    expect(Math.abs(Math.atan2(b, a) - Math.atan2(b0, a0))).toBeLessThan(0.15);
  });
  it("puts together what is one colour to the eye", () => {
    const near = ["#1f3d2e", "#203e2f", "#1e3c2d", "#cc3311", "#cd3412"].map((colour) => ({
      colour,
      weight: 10,
    }));
    expect(clustered(near)).toHaveLength(2);
    expect(clustered([])).toEqual([]);
  });
});

const themeArbitrary: fc.Arbitrary<Theme> = fc
  .tuple(
    weighted,
    fc.constantFrom(...Object.values(SHIPPED_THEMES)),
    fc.integer({ min: 0, max: 40 }),
    fc.boolean(),
    fc.dictionary(fc.constantFrom(...(Object.keys(FOLLOWS) as Follower[])), hex),
    fc.dictionary(fc.constantFrom(...(Object.keys(FOLLOWS) as Follower[])), hex),
  )
  .map(([colours, base, corner, light, some, others]) => {
    const theme = proposedTheme("Kept", colours, { corner }, base as Theme);
    return {
      ...theme,
      colours: { ...theme.colours, ...some },
      dark: light || !theme.dark ? null : { ...theme.dark, ...others },
      starts: { button: { corner: 9 } },
      ...(corner % 2 === 0 && { spacing: [0, corner + 1, corner + 9], width: 600 + corner }),
    };
  });

describe("design tokens", () => {
  it("give back the theme they were made of", () => {
    fc.assert(
      fc.property(themeArbitrary, (theme) => {
        expect(fromTokens(toTokens(theme))).toEqual({ theme, found: expect.any(Number) });
      }),
      { numRuns: 80 },
    );
  });
  it("of another tool are read by what they are called, aliases and all", () => {
    const tokens = {
      brand: { $type: "color", core: { $value: "#005a9c" }, primary: { $value: "{brand.core}" } },
      surface: { $value: { colorSpace: "srgb", components: [1, 0.98, 0.94] }, $type: "color" },
      text: { body: { $type: "color", $value: "#222222" } },
      radius: { $type: "dimension", $value: "6px" },
      "font-body": { $type: "fontFamily", $value: ["Verdana", "sans-serif"] },
    };
    const read = fromTokens(JSON.stringify(tokens));
    expect(read).toMatchObject({
      theme: {
        colours: { accent: "#005a9c", sheet: "#fffaf0", ink: "#222222" },
        corner: 6,
        fonts: { body: "wideSans" },
      },
    });
  });
  it("are measured in px or rem, and coloured in hex or in parts of sRGB", () => {
    const ink = { ink: { $type: "color", $value: "#222222" } };
    const corner = (value: unknown) =>
      fromTokens(JSON.stringify({ ...ink, radius: { $type: "dimension", $value: value } }));
    const at = (px: number) => ({ theme: { corner: px } });
    expect(corner({ value: 0.5, unit: "rem" })).toMatchObject(at(8));
    expect(corner({ value: 5, unit: "px" })).toMatchObject(at(5));
    expect(corner("7px")).toMatchObject(at(7));
    expect(corner(9)).toMatchObject(at(9));
    const standard = at(STANDARD_THEME.corner);
    for (const none of ["1em", "px", { value: "6" }, null])
      expect(corner(none)).toMatchObject(standard);

    const colour = (value: unknown) =>
      fromTokens(JSON.stringify({ ink: { $type: "color", $value: value } }));
    const said = (hex: string) => ({ theme: { colours: { ink: hex } } });
    const srgb = (...components: unknown[]) => ({ colorSpace: "srgb", components });
    expect(colour("#12345678")).toMatchObject(said("#123456"));
    expect(colour({ ...srgb(9, 9, 9), hex: "#abcdef" })).toMatchObject(said("#abcdef"));
    expect(colour(srgb(0, 1, 0.02))).toMatchObject(said("#00ff05"));
    for (const none of [
      srgb(0, 1),
      srgb(0, 1, 2),
      srgb(0, 1, -0.1),
      srgb(0, 1, "1"),
      { colorSpace: "oklch", components: [0, 0, 0] },
      7,
    ])
      expect(colour(none)).toHaveProperty("problem");
  });
  it("that are none, or go round in circles, are told", () => {
    expect(fromTokens("{")).toHaveProperty("problem");
    expect(fromTokens("[]")).toHaveProperty("problem");
    expect(
      fromTokens(
        JSON.stringify({
          a: { $type: "color", $value: "{b}" },
          b: { $type: "color", $value: "{a}" },
        }),
      ),
    ).toHaveProperty("problem");
    const odd = {
      c: { $type: "color", $value: "#123456" },
      $extensions: { "org.septima.theme": { starts: 7, fonts: "x" } },
    };
    expect(fromTokens(JSON.stringify(odd))).toHaveProperty("theme");
  });
});

it("a page of the house loads its own fonts alone, each once", () => {
  const own = { family: "Ours", address: ownFont("e".repeat(64)) };
  const web = { family: "Theirs", address: "https://fonts.example/a.woff" };
  const faces = (heading: typeof own | null, body: typeof own | null) =>
    pageFaces({ ...STANDARD_THEME, webFonts: { heading, body } });
  const rule = `@font-face{font-family:'Ours';src:url('${own.address}') format('woff2')}`;
  expect(faces(own, own)).toBe(rule);
  expect(faces(web, own)).toBe(rule);
  expect(faces(web, null)).toBe("");
});
