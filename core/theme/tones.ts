/** Tones: ten steps of lightness (CIE L*, 0–100), in which a picture's points are counted. */
import { contrastOf, luminance } from "./theme.ts";

export const TONES = 10;

/** CIE L* of a relative luminance, 0–100 (CIE 15). */
const lightness = (y: number) => (y > 216 / 24389 ? 116 * Math.cbrt(y) - 16 : (24389 / 27) * y);
const luminanceAt = (l: number) => (l > 8 ? ((l + 16) / 116) ** 3 : (l * 27) / 24389);

/** The step of a relative luminance, 0 (black) to 9 (white). */
export const toneOf = (y: number): number =>
  Math.min(TONES - 1, Math.floor((lightness(y) * TONES) / 100));

/** Relative luminance in the middle of each step. */
const MIDDLES = Array.from({ length: TONES }, (_, i) => luminanceAt(((i + 0.5) * 100) / TONES));

/** Of how much of a picture words in a colour stand out by less than a ratio, per cent. */
export function lostOver(ink: string, tones: readonly number[], least: number): number {
  const own = luminance(ink);
  return tones.reduce(
    (sum, share, i) => (contrastOf(own, MIDDLES[i]!) < least ? sum + share : sum),
    0,
  );
}
