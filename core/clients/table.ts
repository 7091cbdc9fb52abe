/** What each family of mail programs does to an email. A new one is an entry here. */

import { clips } from "./acts/clip.ts";
import { turnsAll, turnsLight } from "./acts/colours.ts";
import { dropsElements, sizesByAttribute } from "./acts/elements.ts";
import { hidesBackgrounds, hidesImages } from "./acts/images.ts";
import { dropsSheets, dropsSheetsThat, prefixesNames } from "./acts/sheets.ts";
import { enlarges } from "./acts/sizes.ts";
import { drops, dropsAtRules, dropsSelectors } from "./acts/styles.ts";
import { drawsVectors, hidesMarked, isCell, readsConditionals } from "./acts/table-only.ts";
import type { Family } from "./family.ts";

const IGNORES_DARK = dropsAtRules("rules for the dark", "media", /prefers-color-scheme/);

export const FAMILIES: readonly Family[] = [
  { id: "sent", label: "As sent", says: "A program that shows all an email has.", acts: [] },
  {
    id: "imagesOff",
    label: "Images off",
    says: "Images are not loaded until the reader asks: boxes with alt text stand in their places.",
    acts: [hidesImages("images"), hidesBackgrounds],
  },
  {
    id: "tableOnly",
    label: "Table-only desktop",
    says: "A word processor’s engine: tables, colours of cells and its own markup, little else.",
    desktop: true,
    acts: [
      readsConditionals,
      hidesMarked,
      sizesByAttribute,
      hidesBackgrounds,
      hidesImages("images of kinds it does not know (WebP, SVG)", /\.(webp|svg)(\?|$)/i),
      dropsAtRules("rules for screens of some width", "media"),
      dropsAtRules("web fonts", "font-face"),
      dropsSelectors("changes under the pointer", /:hover/, "a:hover"),
      drops("largest and smallest widths and heights", [
        "max-width",
        "min-width",
        "max-height",
        "min-height",
      ]),
      drops("round corners", ["border-radius"]),
      drops("shadows", ["box-shadow", "text-shadow"]),
      drops("how pictures behind words lie", [
        "background-size",
        "background-position",
        "background-repeat",
      ]),
      drops("places outside the flow", ["position", "float", "top", "left", "right", "bottom"]),
      drops("see-through parts", ["opacity"]),
      drops("boxes in a line", ["display"], { of: /inline-block|flex|grid/ }),
      drops(
        "margins of images",
        ["margin", "margin-top", "margin-right", "margin-bottom", "margin-left"],
        {
          on: (name) => name === "img",
        },
      ),
      drops(
        "padding on anything but cells",
        ["padding", "padding-top", "padding-right", "padding-bottom", "padding-left"],
        { on: (name) => !isCell(name) },
      ),
      drawsVectors,
    ],
  },
  {
    id: "noStyle",
    label: "No style element",
    says: "Inline styles alone are kept: no classes, no rules for narrow or dark.",
    acts: [dropsSheets],
  },
  {
    id: "filtered",
    label: "Filtered webmail",
    says: "Names are changed, some styles are dropped, and 102 KB of HTML are shown.",
    acts: [
      dropsAtRules("web fonts", "font-face"),
      dropsSheetsThat("a style element it does not like", 16_384, /url\(|@import|expression\(/i),
      dropsSelectors("rules by attribute", /\[/, "a[href]"),
      drops("places outside the flow", ["position", "top", "left", "right", "bottom"]),
      drops(
        "negative margins",
        ["margin", "margin-top", "margin-right", "margin-bottom", "margin-left"],
        {
          of: /-\d/,
        },
      ),
      dropsElements("forms", ["form", "input", "select", "textarea", "button"]),
      prefixesNames,
      clips,
    ],
  },
  {
    id: "forcedDark",
    label: "Forced dark",
    says: "Every colour is turned around by its lightness; images stay.",
    acts: [IGNORES_DARK, turnsAll],
  },
  {
    id: "forcedDarkLight",
    label: "Forced dark, light parts",
    says: "Light grounds and dark words alone are turned around; images stay.",
    acts: [IGNORES_DARK, turnsLight],
  },
  {
    id: "largeType",
    label: "Large type",
    says: "Type is half as large again; heights that were fixed stay.",
    acts: [enlarges(1.5)],
  },
  {
    id: "plainText",
    label: "Plain text",
    says: "The text part of the message.",
    acts: [],
    words: "text",
  },
  {
    id: "aloud",
    label: "Read aloud",
    says: "What a screen reader says, in its order.",
    acts: [],
    words: "aloud",
  },
];

export const familyOf = (id: string): Family =>
  FAMILIES.find((family) => family.id === id) ?? FAMILIES[0]!;
