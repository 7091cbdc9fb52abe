/** What is done to an image of the library: a recipe over its original, so that nothing of that is lost. */
import { z } from "zod";
import { LIMITS } from "../limits.ts";
import { HEX } from "../theme/theme.ts";

const hex = z.string().regex(HEX, "A colour has six digits, as #336699.");
const share = z.number().min(0).max(1);
/** Per cent of what can be done, either way. */
const either = z.number().int().min(-100).max(100);
const percent = z.number().int().min(0).max(100);

/** A part of an image, in shares of its width and height once it is turned and flipped. */
export const areaSchema = z
  .strictObject({ x: share, y: share, width: share, height: share })
  .refine(
    ({ x, y, width, height }) =>
      width > 0 && height > 0 && x + width <= 1.000001 && y + height <= 1.000001,
    "What is cut out lies in the image.",
  );
export type Area = z.infer<typeof areaSchema>;

// biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is refused
const CONTROL = /[\u0000-\u001f\u007f]/;

export const LETTERINGS = ["sans", "serif"] as const;

const wordsSchema = z.strictObject({
  text: z
    .string()
    .trim()
    .min(1, "Write the words.")
    .max(LIMITS.drawnWords)
    .refine((text) => text.isWellFormed() && !CONTROL.test(text), "These words cannot be drawn."),
  font: z.enum(LETTERINGS),
  /** Height of the letters, per cent of the image's. */
  size: z.number().int().min(2).max(60),
  ink: hex,
  /** What lies behind them; null for nothing. */
  ground: hex.nullable(),
  /** Where their middle is, per cent from the left and the top. */
  across: percent,
  down: percent,
});
export type PictureWords = z.infer<typeof wordsSchema>;

export const pictureRecipeSchema = z.strictObject({
  /** Degrees, clockwise. */
  turn: z.union([z.literal(0), z.literal(90), z.literal(180), z.literal(270)]),
  /** Left and right, top and bottom change places. */
  flip: z.boolean(),
  flop: z.boolean(),
  area: areaSchema.nullable(),
  /** px; null as it comes, and never larger than it is. */
  width: z.number().int().min(1).max(LIMITS.pictureSide).nullable(),
  brightness: either,
  contrast: either,
  saturation: either,
  warmth: either,
  sharpness: percent,
  tint: z.strictObject({ colour: hex, strength: percent }).nullable(),
  /** Of the corners, per cent of the shorter side; 50 makes a disc of a square. */
  corner: z.number().int().min(0).max(50),
  /** Per cent of the shorter side. */
  frame: z.strictObject({ colour: hex, width: z.number().int().min(1).max(20) }).nullable(),
  words: z.array(wordsSchema).max(LIMITS.pictureWords),
  /** A file as light as can be while it still looks well. */
  light: z.boolean(),
});
export type PictureRecipe = z.infer<typeof pictureRecipeSchema>;

/** Nothing is done. */
export const PLAIN: PictureRecipe = {
  ...{ turn: 0, flip: false, flop: false, area: null, width: null },
  ...{ brightness: 0, contrast: 0, saturation: 0, warmth: 0, sharpness: 0 },
  ...{ tint: null, corner: 0, frame: null, words: [], light: false },
};

/** Whether anything is done to it. */
export const isPlain = (recipe: PictureRecipe): boolean =>
  JSON.stringify(pictureRecipeSchema.parse(recipe)) ===
  JSON.stringify(pictureRecipeSchema.parse(PLAIN));

export interface Size {
  readonly width: number;
  readonly height: number;
}

/** The size once it is turned, px. */
export const turned = ({ width, height }: Size, { turn }: Pick<PictureRecipe, "turn">): Size =>
  turn % 180 === 0 ? { width, height } : { width: height, height: width };

export interface Box extends Size {
  readonly left: number;
  readonly top: number;
}

/** The area in whole pixels of a turned image, at least one each way. */
export function boxOf(area: Area | null, { width, height }: Size): Box {
  if (!area) return { left: 0, top: 0, width, height };
  const left = Math.min(width - 1, Math.round(area.x * width));
  const top = Math.min(height - 1, Math.round(area.y * height));
  return {
    ...{ left, top },
    width: Math.max(1, Math.min(width - left, Math.round(area.width * width))),
    height: Math.max(1, Math.min(height - top, Math.round(area.height * height))),
  };
}

/** What comes of an image of a size, px; never wider than `most`. */
export function sizeAfter(recipe: PictureRecipe, original: Size, most: number): Size {
  const { width, height } = boxOf(recipe.area, turned(original, recipe));
  const wide = Math.min(width, recipe.width ?? width, most);
  return { width: wide, height: Math.max(1, Math.round((height * wide) / width)) };
}
