/** A theme: the roles that colours, fonts and sizes play in an email, and what fills them. */
import { z } from "zod";
import { LIMITS } from "../limits.ts";

/** Six-digit hex only: other spellings are dropped by some engines. */
export const HEX = /^#[0-9a-f]{6}$/;

/** A colour as people write it, as # and six digits: with # or without, of three digits too. Null where it is none. */
export function hexOf(text: string): string | null {
  const digits = /^#?([0-9a-f]{3}|[0-9a-f]{6})$/.exec(text.trim().toLowerCase())?.[1];
  if (!digits) return null;
  return `#${digits.length === 3 ? [...digits].map((one) => one + one).join("") : digits}`;
}
const hex = z.string().regex(HEX, "A colour is written as # and six digits, for example #1f3d2e.");

export const COLOUR_ROLES = {
  ground: "Background around the email",
  sheet: "Sheet",
  tint: "Tinted band",
  ink: "Text",
  quiet: "Quiet text",
  accent: "Accent",
  onAccent: "Text on the accent",
  line: "Lines",
  heading: "Headings",
  link: "Links",
  button: "Buttons",
  onButton: "Text on buttons",
  outline: "Outline and quiet buttons",
  card: "Cards",
  masthead: "Masthead",
  onMasthead: "Text of the masthead",
  footer: "Footer",
  onFooter: "Text of the footer",
  heading2: "Headings of level 2",
  heading3: "Headings of level 3",
} as const;
export type ColourRole = keyof typeof COLOUR_ROLES;

/** Roles that a theme may leave out, and the role each is as then. */
export const FOLLOWS = {
  heading: "accent",
  link: "accent",
  button: "accent",
  onButton: "onAccent",
  outline: "button",
  card: "sheet",
  masthead: "sheet",
  onMasthead: "accent",
  footer: "sheet",
  onFooter: "quiet",
  heading2: "heading",
  heading3: "heading2",
} as const satisfies Partial<Record<ColourRole, ColourRole>>;
export type Follower = keyof typeof FOLLOWS;
/** Roles that every theme fills. */
export type LeadingRole = Exclude<ColourRole, Follower>;
export const follows = (role: ColourRole): role is Follower => Object.hasOwn(FOLLOWS, role);

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

/** Words in the names of families by which the stack like them is found. */
const LIKE: readonly (readonly [RegExp, FontName])[] = [
  [/courier|mono|consol/i, "mono"],
  [/trebuchet|tahoma|segoe|lucida/i, "warmSans"],
  [/verdana|geneva/i, "wideSans"],
  [/sans|arial|helvet|roboto|calibri|inter/i, "plainSans"],
  [/georgia|times|serif|garamond|palatino/i, "bookSerif"],
];
/** The stack that is like a font family as CSS names it (`"Open Sans", sans-serif`); null where none is. */
export const fontLike = (family: string): FontName | null =>
  LIKE.find(([words]) => words.test(family))?.[1] ?? null;

/** A font by what it is for, or one of the stacks. */
export const fontSchema = z.enum(["heading", "body", ...fonts]);
export type Font = z.infer<typeof fontSchema>;

/** The name of a font's family. */
export const FAMILY = /^[A-Za-z0-9][A-Za-z0-9 -]{0,59}$/;
/** Where the house's own fonts are, within the application: their addresses in emails begin with where that is. */
const OWN_FONT = /^\/fonts\/([a-f0-9]{64})\.woff2$/;
export const ownFont = (id: string): string => `/fonts/${id}.woff2`;
/** The ids of the house's fonts that a theme asks for. */
export const ownFontsOf = ({ webFonts: { heading, body } }: Theme): string[] => [
  ...new Set([heading, body].flatMap((font) => OWN_FONT.exec(font?.address ?? "")?.[1] ?? [])),
];

/** A font of the web or the house: its name, and where its file is. The role's stack stands in where it is not loaded. */
export const webFontSchema = z.strictObject({
  family: z.string().trim().regex(FAMILY, "A font’s name has letters, figures and blanks."),
  address: z
    .string()
    .regex(
      new RegExp(`${OWN_FONT.source}|^https:\\/\\/[^\\s"'()\\\\<>]+\\.woff2?$`),
      "The address of a font file begins with https:// and ends in .woff2 or .woff.",
    )
    .max(500),
});
export type WebFont = z.infer<typeof webFontSchema>;

export const paletteSchema = z.strictObject({
  ...(Object.fromEntries(
    roles.filter((role) => !follows(role)).map((role) => [role, hex]),
  ) as Record<LeadingRole, typeof hex>),
  ...(Object.fromEntries(roles.filter(follows).map((role) => [role, hex.optional()])) as Record<
    Follower,
    z.ZodOptional<typeof hex>
  >),
});
export type Palette = z.infer<typeof paletteSchema>;

/** The colour of a role: its own, or that of the role it follows. */
export const colourOf = (palette: Palette, role: ColourRole): string =>
  follows(role) ? (palette[role] ?? colourOf(palette, FOLLOWS[role])) : palette[role];

export const themeSchema = z.strictObject({
  name: z.string().min(1).max(80),
  colours: paletteSchema,
  /** The roles where the mail program shows dark; null leaves the email light. */
  dark: paletteSchema.nullable(),
  fonts: z.strictObject({ heading: z.enum(fonts), body: z.enum(fonts) }),
  webFonts: z.strictObject({
    heading: webFontSchema.nullable(),
    body: webFontSchema.nullable(),
  }),
  type: z.strictObject({
    body: z.number().int().min(12).max(24),
    /** Sizes of heading levels 1–3, px. */
    heading1: z.number().int().min(16).max(64),
    heading2: z.number().int().min(14).max(48),
    heading3: z.number().int().min(12).max(36),
  }),
  corner: z.number().int().min(0).max(40),
  /** Steps that spacing is offered in, px, smallest first. */
  spacing: z
    .array(z.number().int().min(0).max(LIMITS.padding))
    .min(1)
    .max(LIMITS.spacingSteps)
    .refine((steps) => steps.every((px, i) => i === 0 || px > steps[i - 1]!), "Smallest first.")
    .optional(),
  /** How wide new emails are, px. */
  width: z.number().int().min(LIMITS.emailWidth.min).max(LIMITS.emailWidth.max).optional(),
  /** Further colours of the house, beside the roles. */
  palette: z.array(hex).max(LIMITS.palette),
  /** How new blocks come where that is not as they are built: by type (or `all`), then by path. */
  starts: z
    .record(
      z.string().regex(/^[a-zA-Z.]{1,40}$/),
      z.record(z.string().regex(/^[a-zA-Z.]{1,80}$/), z.json()),
    )
    .refine(
      (starts) => JSON.stringify(starts).length <= LIMITS.themeStarts,
      "This theme says too much about new blocks.",
    ),
});
export type Theme = z.infer<typeof themeSchema>;

/** The steps of a theme that names none, px. */
const SPACING: readonly number[] = [0, 8, 16, 24, 32, 48];
export const spacingOf = ({ spacing }: Pick<Theme, "spacing">): readonly number[] =>
  spacing ?? SPACING;

/** Steps as people write them, with commas or blanks between; null where it is none. */
export function spacingIn(text: string): number[] | null {
  const steps = text.split(/[\s,;]+/).filter((one) => one !== "");
  const read = themeSchema.shape.spacing.safeParse(
    [...new Set(steps.map(Number))].sort((a, b) => a - b),
  );
  return read.success ? (read.data ?? null) : null;
}

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
  dark: {
    ground: "#151916",
    sheet: "#1d231f",
    tint: "#29302a",
    ink: "#ece8df",
    quiet: "#b4bbae",
    accent: "#a5cbb3",
    onAccent: "#12211a",
    line: "#434b44",
  },
  fonts: { heading: "bookSerif", body: "bookSerif" },
  webFonts: { heading: null, body: null },
  type: { body: 16, heading1: 28, heading2: 22, heading3: 18 },
  corner: 4,
  palette: [],
  starts: {},
};

/** A theme that asks for no font of a house but those whose addresses are known there. */
export function withKnownFonts(theme: Theme, known: ReadonlySet<string>): Theme {
  const kept = (font: WebFont | null) =>
    font && (!font.address.startsWith("/") || known.has(font.address)) ? font : null;
  const { heading, body } = theme.webFonts;
  return { ...theme, webFonts: { heading: kept(heading), body: kept(body) } };
}

export const isRole = (colour: string): colour is ColourRole => Object.hasOwn(COLOUR_ROLES, colour);

/** The hex value a colour has under a theme; an unknown role is the words' own. */
export function resolveColour(colour: string, theme: Pick<Theme, "colours">): string {
  if (colour.startsWith("#")) return colour;
  return colourOf(theme.colours, isRole(colour) ? colour : "ink");
}

/** The stack of a font: a web font first, where the theme has one for the role. */
export function fontStack(font: Font, theme: Theme): string {
  if (font !== "heading" && font !== "body") return FONTS[font].stack;
  const web = theme.webFonts[font];
  const { stack } = FONTS[theme.fonts[font]];
  return web ? `'${web.family}',${stack}` : stack;
}

/** Relative luminance of a point of sRGB, 0–255 each (WCAG 2.2, definition of relative luminance), 0–1. */
export function luminanceOf(r: number, g: number, b: number): number {
  const linear = (of: number) => {
    const c = of / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  };
  return 0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b);
}

/** Relative luminance of a six-digit hex colour. */
export function luminance(hexColour: string): number {
  const channel = (at: number) => Number.parseInt(hexColour.slice(at, at + 2), 16);
  return luminanceOf(channel(1), channel(3), channel(5));
}

/** Contrast ratio of two relative luminances (WCAG 2.2, 1.4.3), 1–21. */
export const contrastOf = (a: number, b: number): number =>
  (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);

/** Contrast ratio of two hex colours (WCAG 2.2, 1.4.3), 1–21. */
export const contrast = (a: string, b: string): number => contrastOf(luminance(a), luminance(b));

/**
 * The colour of words that have none of their own (alt texts) on a ground: of the roles for text the one that is
 * easier to read, in the dark too; on a fixed ground, which stays as it is in the dark, a fixed one.
 */
export function inkOn(ground: Colour, theme: Theme): Colour {
  const known = inks.get(theme) ?? new Map<Colour, Colour>();
  inks.set(theme, known);
  const before = known.get(ground);
  if (before) return before;
  const found = easiest(ground, theme);
  known.set(ground, found);
  return found;
}

const inks = new WeakMap<Theme, Map<Colour, Colour>>();

function easiest(ground: Colour, theme: Theme): Colour {
  const { colours, dark } = theme;
  if (!isRole(ground)) {
    return contrast(colours.ink, ground) >= contrast("#ffffff", ground) ? colours.ink : "#ffffff";
  }
  const least = (ink: ColourRole) =>
    Math.min(
      ...[colours, dark ?? colours].map((of) => contrast(colourOf(of, ink), colourOf(of, ground))),
    );
  return least("ink") >= least("onAccent") ? "ink" : "onAccent";
}
