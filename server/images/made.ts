/** Pictures that the server makes from a recipe in their address: codes, countdowns, stills, cuts and signs. */

import { join } from "node:path";
import QRCode from "qrcode";
import sharp, { type Sharp } from "sharp";
import { z } from "zod";
import { BARCODES } from "#core/blocks/barcodes.ts";
import { SIGNS, signSvg } from "#core/blocks/signs.ts";
import { parseJson } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { PICTURE_ID } from "#core/picture-id.ts";
import { coverBox } from "#core/pictures/crop.ts";
import { HEX } from "#core/theme/theme.ts";
import { barcode } from "./barcode.ts";
import { countdownSettings, countdownSvg, minuteOf } from "./countdown.ts";
import { asJpeg, asPng } from "./written.ts";

const hex = z.string().regex(HEX);
const id = z.string().regex(PICTURE_ID);
const side = z.number().int().min(1).max(LIMITS.emailWidth.max);

const format = z.enum(["png", "jpg"]);
const percent = z.number().int().min(0).max(100);

export const recipeSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("qr"),
    words: z.string().max(LIMITS.qrLength),
    settings: z.strictObject({ ink: hex, ground: hex }),
  }),
  z.strictObject({
    kind: z.literal("barcode"),
    words: z.string().max(LIMITS.qrLength),
    settings: z.strictObject({ form: z.enum(BARCODES) }),
  }),
  z.strictObject({
    kind: z.literal("countdown"),
    words: z.string().max(LIMITS.drawnWords),
    settings: countdownSettings,
  }),
  z.strictObject({
    kind: z.literal("still"),
    words: z.null(),
    settings: z.strictObject({ picture: id, mark: hex, format }),
  }),
  z.strictObject({
    kind: z.literal("crop"),
    words: z.null(),
    settings: z.strictObject({ picture: id, width: side, height: side, format }),
  }),
  // Kept apart from the one above, whose addresses are in emails that have gone out.
  z.strictObject({
    kind: z.literal("cut"),
    words: z.null(),
    settings: z.strictObject({
      ...{ picture: id, width: side, height: side, format },
      ...{ x: percent, y: percent },
    }),
  }),
  z.strictObject({
    kind: z.literal("icon"),
    words: z.null(),
    settings: z.strictObject({
      sign: z.enum(SIGNS.map(({ name }) => name) as [string, ...string[]]),
      shape: z.enum(["bare", "round", "square"]),
      ink: hex,
      ground: hex,
    }),
  }),
]);
export type MadeRecipe = z.infer<typeof recipeSchema>;

/** The names of a kind's settings in their order, and whether it has words. */
const SHAPES = new Map(
  recipeSchema.options.map(({ shape }) => [
    shape.kind.value as string,
    {
      names: Object.keys(shape.settings.shape).sort(),
      words: !(shape.words instanceof z.ZodNull),
    },
  ]),
);

/** A recipe as it was before it was made short (`shortRecipe`); what is none is given back. */
function whole(json: unknown): unknown {
  if (!Array.isArray(json)) return json;
  const [kind, ...values] = json as unknown[];
  const shape = SHAPES.get(String(kind));
  if (!shape) return null;
  const words = shape.words ? values.shift() : null;
  if (values.length !== shape.names.length) return null;
  return {
    kind,
    words,
    settings: Object.fromEntries(shape.names.map((name, i) => [name, values[i]])),
  };
}

/** Reads a recipe from an address, also from one of an email that went out before they were short; null where it is none. */
export function readRecipe(text: string): MadeRecipe | null {
  if (text.length > 4_000) return null;
  try {
    const json = parseJson(Buffer.from(text, "base64url").toString("utf8"));
    return recipeSchema.safeParse(whole(json)).data ?? null;
  } catch {
    return null;
  }
}

/** Pictures are made at twice the size they show at, as dense screens want them. */
const DENSE = 2;

/** A disc with a triangle on it, in the middle of a picture. */
function playMark(width: number, height: number, ink: string): Buffer {
  const size = Math.round(Math.min(width, height) * 0.3);
  return Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${size}" height="${size}" viewBox="0 0 100 100"><circle cx="50" cy="50" r="46" fill="#000000" fill-opacity="0.55"/><circle cx="50" cy="50" r="46" fill="none" stroke="${ink}" stroke-width="5"/><path d="M41 31 L70 50 L41 69 Z" fill="${ink}" stroke="${ink}" stroke-width="4" stroke-linejoin="round"/></svg>`,
  );
}

/** Makes a picture as PNG or JPEG, as it is at a moment; null where the picture it is made from is gone. `fileOf` gives a picture's file. */
export async function makePicture(
  recipe: MadeRecipe,
  folder: string,
  fileOf: (picture: string) => Promise<string | null>,
  now: Date,
): Promise<Buffer | null> {
  if (recipe.kind === "qr") {
    const { ink, ground } = recipe.settings;
    // Level M repairs 15 % of a code; four light modules around it are the standard's quiet zone (ISO/IEC 18004).
    return QRCode.toBuffer(recipe.words || " ", {
      errorCorrectionLevel: "M",
      margin: 4,
      width: 480,
      color: { dark: `${ink}ff`, light: `${ground}ff` },
    });
  }
  if (recipe.kind === "barcode") return barcode(recipe.settings.form, recipe.words);
  if (recipe.kind === "countdown") {
    return sharp(Buffer.from(countdownSvg(recipe.settings, recipe.words, now)))
      .png()
      .toBuffer();
  }
  if (recipe.kind === "icon") {
    const { sign, shape, ink, ground } = recipe.settings;
    return sharp(Buffer.from(signSvg(sign, shape, ink, ground, 96)))
      .png()
      .toBuffer();
  }
  const file = await fileOf(recipe.settings.picture);
  if (!file) return null;
  const source = sharp(join(folder, file)).timeout({ seconds: LIMITS.pictureMs / 1_000 });
  if (recipe.kind === "crop") {
    const { width, height } = recipe.settings;
    const cut = source.resize({ width: width * DENSE, height: height * DENSE, fit: "cover" });
    return written(cut, recipe.settings.format);
  }
  const { width, height } = await source.metadata();
  if (recipe.kind === "cut") {
    const { settings } = recipe;
    const place = { width: settings.width * DENSE, height: settings.height * DENSE };
    const scale = Math.max(place.width / width, place.height / height);
    const covering = {
      width: Math.max(place.width, Math.round(width * scale)),
      height: Math.max(place.height, Math.round(height * scale)),
    };
    const cut = source
      .resize({ ...covering, fit: "fill" })
      .extract(coverBox(covering, place, settings));
    return written(cut, settings.format);
  }
  const mark = { input: playMark(width, height, recipe.settings.mark), gravity: "centre" };
  return written(source.composite([mark]), recipe.settings.format);
}

const written = (picture: Sharp, format: "png" | "jpg"): Promise<Buffer> =>
  (format === "jpg" ? asJpeg(picture) : asPng(picture)).toBuffer();

/** Whether a picture is another whenever it is fetched: nobody may keep it. */
export const isFleeting = ({ kind }: MadeRecipe): boolean => kind === "countdown";

/** What a made picture is kept under: its recipe, and where it changes with time, the minute it shows. */
export const keptKey = (address: string, recipe: MadeRecipe, now: Date): string =>
  recipe.kind === "countdown" ? `${address} ${minuteOf(recipe.settings, now)}` : address;

/** Made pictures that are kept: every reader asks for the same ones. */
const KEPT = 300;
const kept = new Map<string, Buffer>();

/** The same, from what was made before where that can be. `key` is `keptKey` of the recipe. */
export async function keptPicture(
  key: string,
  make: () => Promise<Buffer | null>,
): Promise<Buffer | null> {
  const before = kept.get(key);
  if (before) return before;
  const picture = await make();
  if (!picture) return null;
  if (kept.size >= KEPT) kept.delete(kept.keys().next().value!);
  kept.set(key, picture);
  return picture;
}
