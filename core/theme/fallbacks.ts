/**
 * What a font measures, and which of the fonts that are on nearly every device is most like it: where the font is not
 * loaded, lines then break nearly where they broke before.
 */
import { z } from "zod";
import { FONTS, type FontName } from "./theme.ts";

export const fontMeasureSchema = z.strictObject({
  /** How wide a letter is on average in running English words with their spaces, in em. */
  width: z.number().min(0.1).max(2),
  /** How high an x is, in em. */
  xHeight: z.number().min(0.1).max(1.5),
  shape: z.enum(["serif", "sans", "mono"]),
});
export type FontMeasure = z.infer<typeof fontMeasureSchema>;

/** The same of the first font of each stack. */
const STACKS: Record<FontName, FontMeasure> = {
  bookSerif: { width: 0.442, xHeight: 0.481, shape: "serif" },
  plainSans: { width: 0.444, xHeight: 0.519, shape: "sans" },
  wideSans: { width: 0.511, xHeight: 0.545, shape: "sans" },
  warmSans: { width: 0.456, xHeight: 0.523, shape: "sans" },
  mono: { width: 0.6, xHeight: 0.423, shape: "mono" },
};

export interface Fallback {
  readonly font: FontName;
  /** How much wider its words are, per cent; below 0 narrower. */
  readonly wider: number;
  /** How much larger its small letters are, per cent. */
  readonly larger: number;
}

const per = (is: number, was: number) => Math.round((is / was - 1) * 100) + 0;

/** The stack most like a font: of its shape where there is one, then by width, which decides where lines break. */
export function fallbackFor(measure: FontMeasure): Fallback {
  const apart = ({ width, xHeight, shape }: FontMeasure) =>
    (shape === measure.shape ? 0 : 10) +
    Math.abs(width / measure.width - 1) +
    Math.abs(xHeight / measure.xHeight - 1) / 2;
  const [font, like] = (Object.keys(FONTS) as FontName[])
    .map((name) => [name, STACKS[name]] as const)
    .reduce((best, one) => (apart(one[1]) < apart(best[1]) ? one : best));
  return {
    font,
    wider: per(like.width, measure.width),
    larger: per(like.xHeight, measure.xHeight),
  };
}

/** How often letters stand in English running words, with the space between them; per thousand letters. */
export const LETTERS: Readonly<Record<string, number>> = {
  ...{ a: 82, b: 15, c: 28, d: 43, e: 127, f: 22, g: 20, h: 61, i: 70, j: 2, k: 8, l: 40, m: 24 },
  ...{ n: 67, o: 75, p: 19, q: 1, r: 60, s: 63, t: 91, u: 28, v: 10, w: 24, x: 2, y: 20, z: 1 },
  " ": 200,
};
