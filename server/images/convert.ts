/** A file as a picture fit for email: at most twice the widest email, no metadata, a format every mail program shows. */
import sharp, { type GifOptions, type OutputInfo } from "sharp";
import { LIMITS } from "#core/limits.ts";
import { tonesOf } from "./tones.ts";

/** A file that cannot become a picture; the message is for the person. */
export class PictureError extends Error {
  constructor(
    message: string,
    /** It could be taken if it were made smaller. */
    readonly shrinkable = false,
  ) {
    super(message);
  }
}

export interface Converted {
  readonly data: Buffer;
  readonly ending: "png" | "jpg" | "gif";
  readonly width: number;
  readonly height: number;
  /** Something of it can be seen through. */
  readonly alpha: boolean;
  /** The share of its points in each of ten steps of lightness (CIE L*), per cent. */
  readonly tones: readonly number[];
}

const WIDEST = LIMITS.emailWidth.max * 2;

/** How small an animation is made where it has to be: px, and colours of a palette of its own. */
const SHRUNK = [
  { width: LIMITS.emailWidth.standard, colours: 64, reuse: false, effort: 2 },
  { width: LIMITS.emailWidth.standard / 2, colours: 32, reuse: false, effort: 2 },
];
const mb = (bytes: number) => `${Math.round(bytes / 1e5) / 10} MB`;

/** An animation, as small as it may be; the first size that fits is taken. */
async function animation(data: Buffer, width: number, shrink: boolean) {
  const make = async ({ width, ...options }: GifOptions & { width: number }) =>
    sharp(data, { animated: true, limitInputPixels: LIMITS.pictureSide ** 2 })
      .resize({ width, withoutEnlargement: true })
      .gif(options)
      .toBuffer({ resolveWithObject: true });
  const most = LIMITS.animationBytes;
  const size = (bytes: number) => `This animation has ${mb(bytes)}; at most ${mb(most)} are taken`;
  // One that keeps its size keeps its weight: nothing has to be made to know it.
  if (!shrink && width <= WIDEST && data.length > most) {
    throw new PictureError(`${size(data.length)}: readers load it whole.`, true);
  }
  for (const options of shrink ? SHRUNK : [{ width: WIDEST }]) {
    const out = await make(options);
    if (out.data.length <= most) return out;
  }
  throw new PictureError(
    shrink
      ? `${size(data.length)}, and it could not be made small enough.`
      : `${size(data.length)}: readers load it whole.`,
    !shrink,
  );
}

/** Makes a file fit for email. Throws a PictureError for what is no picture, or too large. */
export function convert(data: Buffer, shrink: boolean): Promise<Converted> {
  return drawn(data, shrink).catch((error) => {
    if (error instanceof PictureError) throw error;
    throw new PictureError(UNREADABLE);
  });
}
export const UNREADABLE = "This file could not be read as an image.";

async function drawn(data: Buffer, shrink: boolean): Promise<Converted> {
  const image = sharp(data, { animated: true, limitInputPixels: LIMITS.pictureSide ** 2 });
  const { format, hasAlpha, pages, width = 0 } = await image.metadata();
  if (!format || !["png", "jpeg", "gif", "webp", "svg"].includes(format)) {
    throw new PictureError("This is not a PNG, JPEG, GIF or WebP image.");
  }
  if (format === "gif" && (pages ?? 1) > 1)
    return made("gif", await animation(data, width, shrink));
  const still = sharp(data, { limitInputPixels: LIMITS.pictureSide ** 2 })
    .rotate()
    .resize({ width: WIDEST, withoutEnlargement: true });
  // WebP and SVG are dropped by some mail programs, so both become PNG or JPEG.
  if (format === "jpeg" || (format === "webp" && !hasAlpha)) {
    const jpeg = still.jpeg({ quality: 84, mozjpeg: true });
    return made("jpg", await jpeg.toBuffer({ resolveWithObject: true }));
  }
  const png = still.png({ palette: true, quality: 90 });
  return made("png", await png.toBuffer({ resolveWithObject: true }));
}

async function made(
  ending: Converted["ending"],
  { data, info }: { data: Buffer; info: OutputInfo },
): Promise<Converted> {
  const alpha = ending !== "jpg" && !(await sharp(data).stats()).isOpaque;
  const { width, height } = info;
  const tones = await tonesOf(data);
  return { data, ending, width, height: info.pageHeight ?? height, alpha, tones };
}
