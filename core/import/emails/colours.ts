/** Colours of a foreign email as those of a theme. */
import { type Colour, type ColourRole, colourOf, type Palette } from "../../theme/theme.ts";

/** How near two colours are the same to the eye. */
const NEAR = 6;
const channels = (hex: string) => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16));
export const near = (a: string, b: string) => {
  const [one, other] = [channels(a), channels(b)];
  return one.every((n, i) => Math.abs(n - other[i]!) <= NEAR);
};

/** The role that a colour plays, of some; the colour itself where it plays none. */
export function roleOf(hex: string, colours: Palette, roles: readonly ColourRole[]): Colour {
  return roles.find((role) => near(colourOf(colours, role), hex)) ?? hex;
}
export const INKS = ["ink", "quiet", "accent", "onAccent"] as const;
export const GROUNDS = ["sheet", "tint", "ground", "accent"] as const;
