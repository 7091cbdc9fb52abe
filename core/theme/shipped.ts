/** The themes that ship. A new one is an entry here; a test holds their contrasts, light and dark. */
import { STANDARD_THEME, type Theme } from "./theme.ts";

export const SHIPPED_THEMES = {
  paper: STANDARD_THEME,
  plum: {
    ...STANDARD_THEME,
    name: "Plum and straw",
    colours: {
      ground: "#f4ede4",
      sheet: "#fffdf9",
      tint: "#f6ead2",
      ink: "#33242b",
      quiet: "#6d5b60",
      accent: "#5c2338",
      onAccent: "#ffffff",
      line: "#e0d0c2",
    },
    dark: {
      ground: "#191315",
      sheet: "#231b1e",
      tint: "#33272a",
      ink: "#f0e6e2",
      quiet: "#c3b2b1",
      accent: "#e6b0bf",
      onAccent: "#2c0f1a",
      line: "#4d3f43",
    },
    fonts: { heading: "warmSans", body: "warmSans" },
    type: { body: 16, heading1: 30, heading2: 22, heading3: 18 },
    corner: 0,
  },
  harbour: {
    ...STANDARD_THEME,
    name: "Harbour",
    colours: {
      ground: "#e9edf2",
      sheet: "#ffffff",
      tint: "#e8f0f7",
      ink: "#1f2a37",
      quiet: "#536072",
      accent: "#21385c",
      onAccent: "#ffffff",
      line: "#ccd5e0",
    },
    dark: {
      ground: "#10151c",
      sheet: "#182029",
      tint: "#223040",
      ink: "#e5ebf2",
      quiet: "#a9b6c6",
      accent: "#9dc2ec",
      onAccent: "#0c1d33",
      line: "#3a4859",
    },
    fonts: { heading: "plainSans", body: "plainSans" },
    type: { body: 16, heading1: 30, heading2: 21, heading3: 17 },
    corner: 8,
  },
} as const satisfies Record<string, Theme>;
export type ShippedTheme = keyof typeof SHIPPED_THEMES;
export const isShippedTheme = (key: string): key is ShippedTheme =>
  Object.hasOwn(SHIPPED_THEMES, key);
