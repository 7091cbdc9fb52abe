/** A file as a picture fit for email: at most twice the widest email, no metadata, a format every mail program shows. */
import sharp, { type GifOptions, type OutputInfo, type Sharp } from "sharp";
import { LIMITS } from "#core/limits.ts";
import { likenessOf } from "./likeness.ts";
import { tonesOf } from "./tones.ts";
import { asJpeg, asPng } from "./written.ts";

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
  /** What it looks like: images that are alike have likenesses that differ in few bits. 16 hex digits. */
  readonly likeness: string;
  /** What is kept of a larger one, to cut parts out of; null where nothing was lost. */
  readonly master: Master | null;
}
export interface Master {
  readonly data: Buffer;
  readonly ending: "png" | "jpg";
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
    const vast = error instanceof Error && /pixel limit/.test(error.message);
    throw new PictureError(vast ? VAST : UNREADABLE);
  });
}
const VAST = `An image may have at most ${LIMITS.pictureSide ** 2 / 1e6} million pixels.`;
export const UNREADABLE = "This file could not be read as an image.";

async function drawn(data: Buffer, shrink: boolean): Promise<Converted> {
  const image = sharp(data, { animated: true, limitInputPixels: LIMITS.pictureSide ** 2 });
  const { format, hasAlpha, pages, autoOrient } = await image.metadata();
  const { width = 0 } = autoOrient;
  if (!format || !["png", "jpeg", "gif", "webp", "svg"].includes(format)) {
    throw new PictureError("This is not a PNG, JPEG, GIF or WebP image.");
  }
  if (format === "gif" && (pages ?? 1) > 1)
    return made("gif", await animation(data, width, shrink));
  const still = () =>
    sharp(data, { limitInputPixels: LIMITS.pictureSide ** 2 })
      .autoOrient()
      .toColourspace("srgb");
  // WebP and SVG are dropped by some mail programs, so both become PNG or JPEG.
  const ending = format === "jpeg" || (format === "webp" && !hasAlpha) ? "jpg" : "png";
  const small = still().resize({ width: WIDEST, withoutEnlargement: true });
  const file = await (ending === "jpg" ? asJpeg(small) : asPng(small)).toBuffer({
    resolveWithObject: true,
  });
  const master = width > WIDEST * WORTH_KEEPING ? await mastered(still(), ending) : null;
  return made(ending, file, master);
}

/** An image this much wider than what is made of it is kept larger too. */
const WORTH_KEEPING = 1.25;

/** The same, as large as parts are cut out of, and hardly compressed. */
async function mastered(image: Sharp, ending: Master["ending"]): Promise<Master> {
  const side = { width: LIMITS.masterSide, height: LIMITS.masterSide };
  const large = image.resize({ ...side, fit: "inside", withoutEnlargement: true });
  const data = await (ending === "jpg"
    ? large.jpeg({ quality: 92 })
    : large.png({ compressionLevel: 6 })
  ).toBuffer();
  return { data, ending };
}

async function made(
  ending: Converted["ending"],
  { data, info }: { data: Buffer; info: OutputInfo },
  master: Master | null = null,
): Promise<Converted> {
  const alpha = ending !== "jpg" && !(await sharp(data).stats()).isOpaque;
  const { width, height } = info;
  const [tones, likeness] = await Promise.all([tonesOf(data), likenessOf(data)]);
  return {
    ...{ data, ending, width, height: info.pageHeight ?? height },
    ...{ alpha, tones, likeness, master },
  };
}
