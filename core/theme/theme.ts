/** A theme: the roles that colours, fonts and sizes play in an email, and what fills them. */
import { z } from "zod";

/** Six-digit hex only: other spellings are dropped by some engines. */
export const HEX = /^#[0-9a-f]{6}$/;
const hex = z.string().regex(HEX, "A colour is written as # and six digits, for example #1f3d2e.");

export const COLOUR_ROLES = {
  ground: "Ground around the email",
  sheet: "Sheet",
  tint: "Tinted band",
  ink: "Words",
  quiet: "Quiet words",
  accent: "Accent",
  onAccent: "Words on the accent",
  line: "Lines",
} as const;
export type ColourRole = keyof typeof COLOUR_ROLES;
const roles = Object.keys(COLOUR_ROLES) as [ColourRole, ...ColourRole[]];

/** A colour in a block: a role of the theme, or a fixed value. */
export const colourSchema = z.union([z.enum(roles), hex]);
export type Colour = z.infer<typeof colourSchema>;

/** Font stacks found on nearly every device; the last name is the generic family. */
export const FONTS = {
  bookSerif: { label: "Book serif", stack: "Georgia,'Times New Roman',serif" },
  plainSans: { label: "Plain sans", stack: "Arial,Helvetica,sans-serif" },
  wideSans: { label: "Wide sans", stack: "Verdana,Geneva,sans-serif" },
  warmSans: { label: "Warm sans", stack: "'Trebuchet MS',Tahoma,sans-serif" },
  mono: { label: "Typewriter", stack: "'Courier New',Courier,monospace" },
} as const;
export type FontName = keyof typeof FONTS;
const fonts = Object.keys(FONTS) as [FontName, ...FontName[]];

export const themeSchema = z.strictObject({
  name: z.string().min(1).max(80),
  colours: z.strictObject(
    Object.fromEntries(roles.map((role) => [role, hex])) as Record<ColourRole, typeof hex>,
  ),
  fonts: z.strictObject({ heading: z.enum(fonts), body: z.enum(fonts) }),
  type: z.strictObject({
    body: z.number().int().min(12).max(24),
    /** Sizes of heading levels 1–3, px. */
    heading1: z.number().int().min(16).max(64),
    heading2: z.number().int().min(14).max(48),
    heading3: z.number().int().min(12).max(36),
  }),
  corner: z.number().int().min(0).max(40),
});
export type Theme = z.infer<typeof themeSchema>;

export const STANDARD_THEME: Theme = {
  name: "Calm paper",
  colours: {
    ground: "#f2eee6",
    sheet: "#ffffff",
    tint: "#f5efe6",
    ink: "#26302b",
    quiet: "#5f675f",
    accent: "#1f3d2e",
    onAccent: "#ffffff",
    line: "#d9d2c4",
  },
  fonts: { heading: "bookSerif", body: "bookSerif" },
  type: { body: 16, heading1: 28, heading2: 22, heading3: 18 },
  corner: 4,
};

/** The hex value a colour has under a theme. */
export function resolveColour(colour: Colour, theme: Theme): string {
  return colour.startsWith("#") ? colour : theme.colours[colour as ColourRole];
}

/** Relative luminance (WCAG 2.2, definition of relative luminance), 0–1. */
export function luminance(hexColour: string): number {
  const channel = (at: number) => {
    const c = Number.parseInt(hexColour.slice(at, at + 2), 16) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  };
  return 0.2126 * channel(1) + 0.7152 * channel(3) + 0.0722 * channel(5);
}

/** Contrast ratio of two hex colours (WCAG 2.2, 1.4.3), 1–21. */
export function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}
