/** Which roles stand on which, and how well they are told apart (WCAG 2.2, 1.4.3 and 1.4.11). */
import { type ColourRole, contrast, type Palette, type Theme } from "./theme.ts";

/** Words need 4.5, what only tells parts apart 3; a hairline may be faint. */
const WORDS = 4.5;

export interface RolePair {
  readonly ink: ColourRole;
  readonly ground: ColourRole;
  /** The ratio that it needs. */
  readonly least: number;
}
const on = (ground: ColourRole, ...inks: ColourRole[]): RolePair[] =>
  inks.map((ink) => ({ ink, ground, least: WORDS }));
/** Every pair of roles that words are read in. */
export const PAIRS: readonly RolePair[] = [
  ...on("sheet", "ink", "quiet", "accent"),
  ...on("tint", "ink", "quiet", "accent"),
  ...on("ground", "ink", "quiet", "accent"),
  ...on("accent", "onAccent"),
];

export interface PairContrast extends RolePair {
  readonly ratio: number;
  readonly holds: boolean;
}
export const contrastsOf = (palette: Palette): PairContrast[] =>
  PAIRS.map((pair) => {
    const ratio = contrast(palette[pair.ink], palette[pair.ground]);
    return { ...pair, ratio, holds: ratio >= pair.least };
  });

/** The pairs of a theme that are hard to read, light and dark. */
export const faintPairs = ({ colours, dark }: Pick<Theme, "colours" | "dark">) => [
  ...contrastsOf(colours).filter(({ holds }) => !holds),
  ...(dark ? contrastsOf(dark).filter(({ holds }) => !holds) : []),
];
