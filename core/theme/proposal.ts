/** A theme proposed from colours: what a logo, an image or a page is made of. */
import { apart, chroma, hexOfLab, type Lab, labOf, readableOn, shade } from "./oklab.ts";
import { type FontName, type Palette, STANDARD_THEME, type Theme } from "./theme.ts";

export interface Weighted {
  /** Hex. */
  readonly colour: string;
  readonly weight: number;
}

/** Kinds of colours that are told apart at most. */
const CLUSTERS = 8;
const ROUNDS = 12;
/** Nearer than this two colours are one to the eye (OKLab). */
const SAME = 0.04;

/**
 * The colours that many are of, the heaviest first: k-means in OKLab. It begins with those that are farthest apart, so
 * that the same colours always give the same palette.
 */
export function clustered(colours: readonly Weighted[], most = CLUSTERS): Weighted[] {
  const points = colours
    .filter(({ weight }) => weight > 0)
    .map(({ colour, weight }) => ({ lab: labOf(colour), weight }));
  const [heaviest] = points.toSorted((a, b) => b.weight - a.weight);
  if (!heaviest) return [];
  let centres: Lab[] = [heaviest.lab];
  while (centres.length < most) {
    const far = points
      .map(({ lab, weight }) => ({
        lab,
        far: Math.min(...centres.map((one) => apart(one, lab))) * Math.cbrt(weight),
      }))
      .sort((a, b) => b.far - a.far)[0]!;
    if (Math.min(...centres.map((one) => apart(one, far.lab))) < SAME) break;
    centres.push(far.lab);
  }
  let weights: number[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const sums = centres.map(() => [0, 0, 0, 0] as [number, number, number, number]);
    for (const { lab, weight } of points) {
      let nearest = 0;
      for (let i = 1; i < centres.length; i++) {
        if (apart(centres[i]!, lab) < apart(centres[nearest]!, lab)) nearest = i;
      }
      const sum = sums[nearest]!;
      for (let i = 0; i < 3; i++) sum[i]! += lab[i as 0 | 1 | 2] * weight;
      sum[3] += weight;
    }
    weights = sums.map((sum) => sum[3]);
    centres = sums.map(([l, a, b, n], i) => (n > 0 ? [l / n, a / n, b / n] : centres[i]!));
  }
  return centres
    .map((lab, i) => ({ colour: hexOfLab(lab), weight: weights[i]! }))
    .filter(({ weight }) => weight > 0)
    .sort((a, b) => b.weight - a.weight);
}

/** As colourful as a mark is; below it a colour is a grey to the eye. */
const COLOURFUL = 0.035;

/** How much a colour stands out: by its colour and how much there is of it. */
const strength = ({ colour, weight }: Weighted) => chroma(labOf(colour)) * Math.sqrt(weight);

/** The roles, chosen so that everything is read on what it stands on, light and dark. */
export function palettesFrom(colours: readonly Weighted[]): {
  colours: Palette;
  dark: Palette;
  palette: string[];
} {
  const found = clustered(colours);
  const strong = found
    .filter(({ colour }) => chroma(labOf(colour)) >= COLOURFUL)
    .sort((a, b) => strength(b) - strength(a));
  const darkest = found.toSorted((a, b) => labOf(a.colour)[0] - labOf(b.colour)[0])[0];
  const main = labOf((strong[0] ?? darkest ?? { colour: STANDARD_THEME.colours.accent }).colour);
  // A second colour where there is one that is not like the first, else the first again.
  const second =
    strong
      .map(({ colour }) => labOf(colour))
      .find((lab) => Math.hypot(lab[1] - main[1], lab[2] - main[2]) > 0.06) ?? main;
  const light = {
    ground: shade(second, 0.955, 0.012),
    sheet: "#ffffff",
    tint: shade(second, 0.955, 0.03),
  };
  const lights = Object.values(light);
  const accent = readableOn(hexOfLab(main), lights);
  const night = {
    ground: shade(main, 0.19, 0.012),
    sheet: shade(main, 0.235, 0.014),
    tint: shade(main, 0.285, 0.02),
  };
  const nights = Object.values(night);
  const darkAccent = readableOn(shade(main, 0.8, 0.11), nights);
  return {
    colours: {
      ...light,
      ink: readableOn(shade(main, 0.27, 0.02), lights, 7),
      quiet: readableOn(shade(main, 0.47, 0.015), lights),
      accent,
      onAccent: readableOn("#ffffff", [accent]),
      line: shade(second, 0.87, 0.02),
    },
    dark: {
      ...night,
      ink: readableOn(shade(main, 0.93, 0.01), nights, 7),
      quiet: readableOn(shade(main, 0.77, 0.015), nights),
      accent: darkAccent,
      onAccent: readableOn(shade(main, 0.2, 0.03), [darkAccent]),
      line: shade(main, 0.4, 0.02),
    },
    palette: strong.slice(0, 6).map(({ colour }) => colour),
  };
}

/** The dark partners of a theme's light colours: of the same hues, and as easy to read. */
export const darkFor = ({ accent, ground, tint, ink }: Palette): Palette =>
  palettesFrom([
    { colour: accent, weight: 6 },
    { colour: ground, weight: 2 },
    { colour: tint, weight: 1.5 },
    { colour: ink, weight: 1 },
  ]).dark;

/** A theme of these colours; fonts, sizes and corners are those of another where nothing is known of them. */
export function proposedTheme(
  name: string,
  colours: readonly Weighted[],
  more: { readonly font?: FontName; readonly corner?: number } = {},
  base: Theme = STANDARD_THEME,
): Theme {
  const { colours: light, dark, palette } = palettesFrom(colours);
  return {
    ...base,
    ...{ name, colours: light, dark, palette },
    fonts: more.font ? { heading: more.font, body: more.font } : base.fonts,
    webFonts: { heading: null, body: null },
    corner: more.corner ?? base.corner,
    starts: {},
  };
}
