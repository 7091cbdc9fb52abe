/** Which roles stand on which, and how well they are told apart (WCAG 2.2, 1.4.3 and 1.4.11). */
import {
  type ColourRole,
  colourOf,
  contrast,
  FOLLOWS,
  follows,
  type Palette,
  type Theme,
} from "./theme.ts";

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
  ...(["sheet", "tint", "ground", "card"] as const).flatMap((ground) =>
    on(ground, "ink", "quiet", "accent", "heading", "heading2", "heading3", "link", "outline"),
  ),
  ...on("accent", "onAccent"),
  ...on("button", "onButton"),
  ...on("masthead", "onMasthead"),
  ...on("footer", "onFooter"),
];

export interface PairContrast extends RolePair {
  readonly ratio: number;
  readonly holds: boolean;
}
/** The role whose colour a role has. */
const leader = (palette: Palette, role: ColourRole): ColourRole =>
  follows(role) && palette[role] === undefined ? leader(palette, FOLLOWS[role]) : role;
/** Those whose colours another pair has, because their roles follow, are told once, as that. */
export const contrastsOf = (palette: Palette): PairContrast[] =>
  PAIRS.filter(({ ink, ground }) => {
    const [ofInk, ofGround] = [leader(palette, ink), leader(palette, ground)];
    const leads = ofInk === ink && ofGround === ground;
    return leads || !PAIRS.some((one) => one.ink === ofInk && one.ground === ofGround);
  }).map((pair) => {
    const ratio = contrast(colourOf(palette, pair.ink), colourOf(palette, pair.ground));
    return { ...pair, ratio, holds: ratio >= pair.least };
  });

/** The pairs of a theme that are hard to read, light and dark. */
export const faintPairs = ({ colours, dark }: Pick<Theme, "colours" | "dark">) => [
  ...contrastsOf(colours).filter(({ holds }) => !holds),
  ...(dark ? contrastsOf(dark).filter(({ holds }) => !holds) : []),
];
