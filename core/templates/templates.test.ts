import { describe, expect, it } from "vitest";
import { checkDocument } from "../blocks/index.ts";
import { runChecks } from "../checks/index.ts";
import { SHIPPED_THEMES } from "../theme/shipped.ts";
import { contrast, themeSchema } from "../theme/theme.ts";
import { type Scenes, SHIPPED } from "./index.ts";

const picture = "a".repeat(64);
const scene = { picture, alt: "What it shows" };
const scenes: Scenes = { field: scene, path: scene, house: scene, goods: scene };
const around = {
  brand: { name: "Larkmoor", postalAddress: "Brook Lane 7" },
  publicAddress: "https://mail.larkmoor.example",
  pictures: new Map([
    [
      picture,
      { id: picture, file: `${picture}.png`, width: 1200, height: 800, name: "x", alpha: false },
    ],
  ]),
};
const themes = Object.entries(SHIPPED_THEMES);
/** What whoever starts from a template has to say: who sends what, where links lead, what items there are. */
const THEIRS = ["subject", "sender", "preview", "placeholder", "empty-link"];
const FIELDS = new Map([
  ["first_name", { id: "first_name", label: "First name", type: "text" as const }],
]);

describe.each(themes)("the theme %s", (_key, theme) => {
  it("is valid, and can be read light and dark", () => {
    expect(themeSchema.parse(theme)).toEqual(theme);
    for (const colours of [theme.colours, theme.dark!]) {
      for (const ground of [colours.sheet, colours.tint, colours.ground]) {
        for (const words of [colours.ink, colours.quiet, colours.accent]) {
          expect(contrast(words, ground)).toBeGreaterThan(4.5);
        }
      }
      expect(contrast(colours.onAccent, colours.accent)).toBeGreaterThan(4.5);
    }
  });
});

it("ships twelve templates, beside bare layouts, each with a key of its own", () => {
  expect(SHIPPED.filter(({ category }) => category !== "bare")).toHaveLength(12);
  expect(new Set(SHIPPED.map(({ key }) => key)).size).toBe(SHIPPED.length);
});

describe.each(SHIPPED.map((one) => [one.name, one] as const))("the template “%s”", (_name, one) => {
  it("is a valid email, with images and without", () => {
    for (const with_ of [scenes, null]) checkDocument(one.make(with_));
    expect(one.make(scenes)).toEqual(one.make(scenes));
  });
  it.each(themes)(
    "asks of whoever starts from it only what is theirs to say, in %s",
    (_key, theme) => {
      const doc = one.make(scenes);
      const root = { ...doc.root, props: { ...doc.root.props, theme: theme as never } };
      const found = runChecks({ ...doc, root }, around, FIELDS);
      // A layout alone has no images of its own.
      const theirs = one.category === "bare" ? [...THEIRS, "no-picture"] : THEIRS;
      const others = found.filter(({ check }) => !theirs.includes(check));
      expect(others.map(({ check, severity }) => `${severity} ${check}`)).toEqual([]);
    },
  );
});
