/** An image by its recipe, from its original. The original is one of ours: it was drawn anew when it came. */
import sharp, { type OverlayOptions, type Raw, type Sharp } from "sharp";
import { LIMITS } from "#core/limits.ts";
import {
  boxOf,
  type PictureRecipe,
  type PictureWords,
  type Size,
  sizeAfter,
  turned,
} from "#core/pictures/recipe.ts";
import { fitted, inXml, lettering } from "./lettering.ts";
import { asFile, type Written } from "./written.ts";

const WIDEST = LIMITS.emailWidth.max * 2;
const open = (data: Buffer | string, raw?: Raw) =>
  sharp(data, { limitInputPixels: LIMITS.pictureSide ** 2, ...(raw && { raw }) }).timeout({
    seconds: LIMITS.pictureMs / 1_000,
  });

/** The points of a step, for the next: sharp does what it is asked in an order of its own. */
async function points(image: Sharp): Promise<Sharp> {
  const { data, info } = await image.raw().toBuffer({ resolveWithObject: true });
  const { width, height, channels } = info;
  return open(data, { width, height, channels });
}

/** Cut out of the turned original, at the size that it is to have. */
async function cutOut(
  file: Buffer | string,
  recipe: PictureRecipe,
  original: Size,
  size: Size,
): Promise<Sharp> {
  let image = open(file).toColourspace("srgb");
  if (recipe.turn || recipe.flip || recipe.flop) {
    image = image.rotate(recipe.turn).flop(recipe.flop).flip(recipe.flip);
    image = await points(image);
  }
  if (recipe.area) image = image.extract(boxOf(recipe.area, turned(original, recipe)));
  return points(image.resize({ ...size, fit: "fill" }));
}

/** Light, colours and edges. Per cent become factors: twice as much contrast at 100, half of it at −100. */
function developed(image: Sharp, recipe: PictureRecipe): Sharp {
  const { brightness, contrast, saturation, warmth, sharpness } = recipe;
  let out = image;
  if (brightness || saturation) {
    out = out.modulate({ brightness: 2 ** (brightness / 100), saturation: 1 + saturation / 100 });
  }
  if (contrast) {
    const slope = 2 ** (contrast / 100);
    out = out.linear(slope, 128 * (1 - slope));
  }
  if (warmth) {
    const more = 1 + warmth / 500;
    const less = 1 - warmth / 500;
    out = out.recomb([
      [more, 0, 0],
      [0, 1, 0],
      [0, 0, less],
    ]);
  }
  return sharpness ? out.sharpen({ sigma: 0.5 + sharpness / 60 }) : out;
}

const svg = ({ width, height }: Size, inner: string): Buffer =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${inner}</svg>`,
  );

/** Words on their ground, as wide as the image at most. */
function written(words: PictureWords, { width, height }: Size): string {
  const text = inXml(words.text).trim();
  const margin = width * 0.04;
  const fit = fitted(text, {
    size: Math.max(6, (height * words.size) / 100),
    room: width - 2 * margin,
    font: words.font,
  });
  // Their middle stays where it is asked for, as far as they stay on the image.
  const half = fit.width / 2 + margin / 2;
  const x = Math.min(width - half, Math.max(half, (width * words.across) / 100));
  const tall = fit.size * 1.3;
  const middle = Math.min(height - tall / 2, Math.max(tall / 2, (height * words.down) / 100));
  const place = { x, y: middle + fit.size * 0.34, size: fit.size, room: fit.width + 1 };
  const ground = words.ground
    ? `<rect x="${x - half}" y="${middle - tall / 2}" width="${half * 2}" height="${tall}" fill="${words.ground}"/>`
    : "";
  return ground + lettering(text, { ...place, ink: words.ink, font: words.font });
}

/** What lies over it: a tint, words, a frame; at last its corners are cut. */
function layers(recipe: PictureRecipe, size: Size): OverlayOptions[] {
  const { width, height } = size;
  const { tint, frame, corner, words } = recipe;
  const shorter = Math.min(width, height);
  const whole = `width="${width}" height="${height}"`;
  const radius = (shorter * corner) / 100;
  const found: OverlayOptions[] = [];
  if (tint) {
    const opacity = tint.strength / 100;
    const rect = `<rect ${whole} fill="${tint.colour}" fill-opacity="${opacity}"/>`;
    found.push({ input: svg(size, rect), blend: "atop" });
  }
  if (words.length > 0) {
    found.push({ input: svg(size, words.map((one) => written(one, size)).join("")) });
  }
  if (frame) {
    const line = Math.max(1, (shorter * frame.width) / 100);
    const inset = `x="${line / 2}" y="${line / 2}" width="${width - line}" height="${height - line}"`;
    const rect = `<rect ${inset} rx="${Math.max(0, radius - line / 2)}" fill="none" stroke="${frame.colour}" stroke-width="${line}"/>`;
    found.push({ input: svg(size, rect) });
  }
  if (corner) {
    const mask = `<rect ${whole} rx="${radius}" fill="#ffffff"/>`;
    found.push({ input: svg(size, mask), blend: "dest-in" });
  }
  return found;
}

/** The image that a recipe makes of a file of ours, as a file fit for email. Throws where it takes too long. */
export async function edited(file: Buffer | string, recipe: PictureRecipe): Promise<Written> {
  const { width, height, format } = await open(file).metadata();
  const original = { width, height };
  const size = sizeAfter(recipe, original, WIDEST);
  let image = developed(await cutOut(file, recipe, original, size), recipe);
  const over = layers(recipe, size);
  if (over.length > 0) image = (await points(image.ensureAlpha())).composite(over);
  return asFile(await points(image), { photo: format === "jpeg", light: recipe.light });
}
