/**
 * A theme as Design Tokens (Design Tokens Community Group format): colours, fonts, sizes and the corner as tokens with
 * `$type` and `$value`; what tokens have no word for stands under `$extensions`. Reads such a file back.
 */
import { isJsonObject, type Json, type JsonObject, parseJson } from "../json.ts";
import { LIMITS } from "../limits.ts";
import {
  COLOUR_ROLES,
  type ColourRole,
  FONTS,
  type FontName,
  follows,
  fontLike,
  hexOf,
  STANDARD_THEME,
  type Theme,
  themeSchema,
} from "./theme.ts";

const ROLES = Object.keys(COLOUR_ROLES) as ColourRole[];
/** Those that a palette fills itself. */
const filled = (palette: Theme["colours"]) => ROLES.filter((role) => palette[role] !== undefined);
/** Under which our own words stand (a reversed name, as the format asks). */
const OWN = "org.septima.theme";

const colourTokens = (palette: Theme["colours"]): JsonObject =>
  Object.fromEntries(
    filled(palette).map((role) => [
      role,
      { $type: "color", $value: palette[role]!, $description: COLOUR_ROLES[role] },
    ]),
  );
const dimension = (px: number): JsonObject => ({
  $type: "dimension",
  $value: { value: px, unit: "px" },
});
const familyToken = (font: FontName): JsonObject => ({
  $type: "fontFamily",
  $value: FONTS[font].stack.split(",").map((one) => one.replaceAll("'", "").trim()),
});

/** The text of a tokens file. */
export function toTokens(theme: Theme): string {
  const { name, colours, dark, fonts, type, corner, palette, webFonts, starts, spacing, width } =
    theme;
  return JSON.stringify(
    {
      $description: name,
      colour: colourTokens(colours),
      ...(dark && { colourDark: colourTokens(dark) }),
      font: { heading: familyToken(fonts.heading), body: familyToken(fonts.body) },
      size: Object.fromEntries(Object.entries(type).map(([role, px]) => [role, dimension(px)])),
      corner: dimension(corner),
      ...(spacing && {
        spacing: Object.fromEntries(spacing.map((px, i) => [`${i + 1}`, dimension(px)])),
      }),
      ...(palette.length > 0 && {
        palette: Object.fromEntries(
          palette.map((hex, i) => [`${i + 1}`, { $type: "color", $value: hex }]),
        ),
      }),
      $extensions: { [OWN]: { fonts, webFonts, starts, ...(width && { width }) } },
    },
    null,
    2,
  );
}

/** A token among others: its path, its type (its own, or that of a group around it), and its value. */
interface Token {
  readonly path: string;
  readonly type: string;
  readonly value: Json;
}

/** Every token of a file, aliases (`{colour.accent}`) followed. */
function tokensIn(root: JsonObject): Token[] {
  const found: Token[] = [];
  const visit = (node: JsonObject, path: string, above: string, depth: number) => {
    const type = typeof node.$type === "string" ? node.$type : above;
    if (node.$value !== undefined) {
      found.push({ path, type, value: node.$value });
      return;
    }
    if (depth > 12) return;
    for (const [key, inner] of Object.entries(node)) {
      if (!key.startsWith("$") && isJsonObject(inner))
        visit(inner, path ? `${path}.${key}` : key, type, depth + 1);
    }
  };
  visit(root, "", "", 0);
  const byPath = new Map(found.map((one) => [one.path, one]));
  return found.map((token) => {
    let one = token;
    for (let steps = 0; steps < 12; steps++) {
      const alias =
        typeof one.value === "string" ? /^\{([^}]+)\}$/.exec(one.value)?.[1] : undefined;
      const next = alias === undefined ? undefined : byPath.get(alias);
      if (!next) break;
      one = { path: token.path, type: next.type, value: next.value };
    }
    return one;
  });
}

/** A colour token's value as hex: written as such, or by its parts in sRGB. */
function colourIn(value: Json): string | null {
  if (typeof value === "string")
    return hexOf(value.replace(/^(#[0-9a-fA-F]{6})[0-9a-fA-F]{2}$/, "$1"));
  if (!isJsonObject(value)) return null;
  if (typeof value.hex === "string") return hexOf(value.hex);
  const parts = value.components;
  if (value.colorSpace !== "srgb" || !Array.isArray(parts) || parts.length !== 3) return null;
  if (!parts.every((one) => typeof one === "number" && one >= 0 && one <= 1)) return null;
  return `#${parts
    .map((one) =>
      Math.round((one as number) * 255)
        .toString(16)
        .padStart(2, "0"),
    )
    .join("")}`;
}
function pxIn(value: Json): number | null {
  if (typeof value === "number") return value;
  if (typeof value === "string")
    return /^[\d.]+(px)?$/.test(value) ? Number.parseFloat(value) : null;
  if (!isJsonObject(value) || typeof value.value !== "number") return null;
  return value.unit === "rem" ? value.value * 16 : value.value;
}

const fontIn = (value: Json): FontName | null =>
  fontLike(Array.isArray(value) ? value.join(" ") : String(value));

/** Words by which other houses' tokens say what our roles are for, the most telling first. */
const NAMES: Record<ColourRole, RegExp> = {
  onAccent:
    /on[-.]?(accent|primary|brand)|(primary|brand|accent|button)[-.]?(text|foreground|contrast)/i,
  accent: /(^|[.-])(accent|primary|brand|action|link)([.-]|$)/i,
  ground: /(page|canvas|ground|backdrop|outer)/i,
  sheet: /(sheet|surface|paper|card|background)/i,
  tint: /(tint|muted[.-]?(bg|surface)|subtle|secondary[.-]?(bg|surface))/i,
  quiet: /(quiet|muted|secondary|caption)([.-]?(text|ink|foreground))?$/i,
  ink: /(ink|text|foreground|body)/i,
  line: /(line|border|divider|rule|outline)/i,
  heading: /(^|[.-])(headings?|headline)([.-]?(text|ink|foreground))?$/i,
  link: /(^|[.-])links?([.-]?(text|ink|foreground))?$/i,
  button: /(^|[.-])(button|cta)([.-]?(bg|background|fill))?$/i,
  onButton: /on[-.]?(button|cta)$|(button|cta)[-.]?(text|ink|foreground|label)$/i,
  outline: /(outline|ghost)[.-]?button$|button[.-]?(outline|ghost)$/i,
  card: /(^|[.-])cards?([.-]?(bg|background))?$/i,
  masthead: /(^|[.-])masthead([.-]?(bg|background))?$/i,
  onMasthead: /on[-.]?masthead$|masthead[-.]?(text|ink|foreground)$/i,
  footer: /(^|[.-])footer([.-]?(bg|background))?$/i,
  heading2: /(^|[.-])(h2|heading[-.]?2)([.-]?(text|ink|foreground))?$/i,
  heading3: /(^|[.-])(h3|heading[-.]?3)([.-]?(text|ink|foreground))?$/i,
  onFooter: /on[-.]?footer$|footer[-.]?(text|ink|foreground)$/i,
};

/** The steps of spacing among tokens, as far as a theme takes them. */
function spacingAmong(tokens: readonly Token[]): Pick<Theme, "spacing"> {
  const steps = tokens.flatMap(({ path, type, value }) => {
    const px = /^(spacing|space)\./i.test(path) && type === "dimension" ? pxIn(value) : null;
    return px !== null && px >= 0 && px <= LIMITS.padding ? [Math.round(px)] : [];
  });
  const spacing = [...new Set(steps)].sort((a, b) => a - b).slice(0, LIMITS.spacingSteps);
  return spacing.length > 0 ? { spacing } : {};
}

/** Reads a tokens file into a theme; what it does not say is as in `base`. Gives in a sentence what is wrong with it. */
export function fromTokens(
  text: string,
  base: Theme = STANDARD_THEME,
): { theme: Theme; found: number } | { problem: string } {
  const json = parseJson(text);
  if (!isJsonObject(json))
    return { problem: "This is not a file of design tokens: it is not JSON." };
  const tokens = tokensIn(json);
  const colours = tokens.flatMap((token) => {
    const hex = token.type === "color" || token.type === "" ? colourIn(token.value) : null;
    return hex ? [{ path: token.path, hex }] : [];
  });
  if (colours.length === 0) return { problem: "There are no colours among these tokens." };
  const isDark = (path: string) => /dark/i.test(path);
  const pick = (role: ColourRole, dark: boolean): string | null => {
    const those = colours.filter(({ path }) => isDark(path) === dark);
    const own = those.find(({ path }) => path === `${dark ? "colourDark" : "colour"}.${role}`);
    return (own ?? those.find(({ path }) => NAMES[role].test(path)))?.hex ?? null;
  };
  const palette = (dark: boolean, other: Theme["colours"]) =>
    Object.fromEntries(
      ROLES.flatMap((role) => {
        // A role that may follow another does so where nothing is said of it.
        const hex = pick(role, dark) ?? (follows(role) ? null : other[role]);
        return hex === null ? [] : [[role, hex]];
      }),
    ) as Theme["colours"];
  const light = palette(false, base.colours);
  const dark = colours.some(({ path }) => isDark(path))
    ? palette(true, base.dark ?? STANDARD_THEME.dark!)
    : null;
  const sizes = (role: keyof Theme["type"], names: RegExp, least: number, most: number) => {
    const token =
      tokens.find(({ path }) => path === `size.${role}`) ??
      tokens.find(({ path, type }) => type === "dimension" && names.test(path));
    const px = token ? pxIn(token.value) : null;
    return px === null ? base.type[role] : Math.round(Math.min(most, Math.max(least, px)));
  };
  const corner = pxIn(
    tokens.find(({ path }) => /(^|\.)(corner|radius|rounded)/i.test(path))?.value ?? null,
  );
  const families = tokens.filter(({ type }) => type === "fontFamily");
  const family = (words: RegExp) => families.find(({ path }) => words.test(path)) ?? families[0];
  const own =
    isJsonObject(json.$extensions) && isJsonObject(json.$extensions[OWN])
      ? (json.$extensions[OWN] as JsonObject)
      : {};
  const heading = family(/head|title|display/i);
  const body = family(/body|text|base/i);
  const made = {
    ...base,
    name:
      typeof json.$description === "string" && json.$description.trim()
        ? json.$description.trim().slice(0, 80)
        : "From design tokens",
    ...{ colours: light, dark },
    fonts: {
      heading: (heading && fontIn(heading.value)) ?? base.fonts.heading,
      body: (body && fontIn(body.value)) ?? base.fonts.body,
    },
    type: {
      body: sizes("body", /(body|base|text)/i, 12, 24),
      heading1: sizes("heading1", /(h1|heading.?1|display)/i, 16, 64),
      heading2: sizes("heading2", /(h2|heading.?2)/i, 14, 48),
      heading3: sizes("heading3", /(h3|heading.?3)/i, 12, 36),
    },
    ...spacingAmong(tokens),
    corner: corner === null ? base.corner : Math.round(Math.min(40, Math.max(0, corner))),
    palette: colours.filter(({ path }) => path.startsWith("palette.")).map(({ hex }) => hex),
    ...own,
  };
  const read = themeSchema.safeParse(made);
  if (read.success) return { theme: read.data, found: colours.length };
  // What stands under our own name may be anybody's: without it the rest still holds.
  const plain = themeSchema.safeParse({
    ...made,
    fonts: base.fonts,
    webFonts: base.webFonts,
    starts: {},
  });
  return plain.success
    ? { theme: plain.data, found: colours.length }
    : { problem: "These tokens cannot be read." };
}
