/** Pictures in the data folder, under the SHA-256 of their content. */
import { createHash } from "node:crypto";
import { mkdir, writeFile } from "node:fs/promises";
import { join } from "node:path";
import sharp, { type GifOptions, type OutputInfo } from "sharp";
import type { Picture } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";

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

export interface PictureFolder {
  readonly folder: string;
  /**
   * Makes a picture fit for email (at most twice the widest email, no metadata, a format every mail
   * program shows) and keeps it. One that is too large is taken where it may be shrunk. Throws a
   * PictureError for anything that is not a picture, or too large.
   */
  add(data: Buffer, name: string, shrink?: boolean): Promise<Picture & { bytes: number }>;
}

/** What to say of a file that cannot even be made smaller. */
export const TOO_LARGE = `A picture may have at most ${LIMITS.pictureUpload / 1e6} MB, even to be made smaller.`;

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

async function convert(
  data: Buffer,
  shrink: boolean,
): Promise<{ data: Buffer; ending: string; info: OutputInfo }> {
  const image = sharp(data, { animated: true, limitInputPixels: LIMITS.pictureSide ** 2 });
  const { format, hasAlpha, pages, width = 0 } = await image.metadata();
  if (!format || !["png", "jpeg", "gif", "webp", "svg"].includes(format)) {
    throw new PictureError("This is not a PNG, JPEG, GIF or WebP picture.");
  }
  if (format === "gif" && (pages ?? 1) > 1) {
    const out = await animation(data, width, shrink);
    return {
      data: out.data,
      info: { ...out.info, height: out.info.pageHeight ?? out.info.height },
      ending: "gif",
    };
  }
  const still = sharp(data, { limitInputPixels: LIMITS.pictureSide ** 2 })
    .rotate()
    .resize({ width: WIDEST, withoutEnlargement: true });
  // WebP and SVG are dropped by some mail programs, so both become PNG or JPEG.
  if (format === "jpeg" || (format === "webp" && !hasAlpha)) {
    const out = await still
      .jpeg({ quality: 84, mozjpeg: true })
      .toBuffer({ resolveWithObject: true });
    return { ...out, ending: "jpg" };
  }
  const out = await still.png({ palette: true, quality: 90 }).toBuffer({ resolveWithObject: true });
  return { ...out, ending: "png" };
}

export async function openPictures(dataFolder: string): Promise<PictureFolder> {
  const folder = join(dataFolder, "pictures");
  await mkdir(folder, { recursive: true });
  return {
    folder,
    async add(data, name, shrink = false) {
      if (data.length > LIMITS.pictureUpload) throw new PictureError(TOO_LARGE);
      if (data.length > LIMITS.pictureBytes && !shrink) {
        throw new PictureError(
          `This picture has ${mb(data.length)}; at most ${mb(LIMITS.pictureBytes)} are taken as they are.`,
          true,
        );
      }
      const made = await convert(data, shrink).catch((error) => {
        if (error instanceof PictureError) throw error;
        throw new PictureError("This file could not be read as a picture.");
      });
      const id = createHash("sha256").update(made.data).digest("hex");
      const file = `${id}.${made.ending}`;
      await writeFile(join(folder, file), made.data);
      const { width, height } = made.info;
      const alpha = made.ending !== "jpg" && !(await sharp(made.data).stats()).isOpaque;
      const bytes = made.data.length;
      return { id, file, name: name.slice(0, 120), width, height, alpha, bytes };
    },
  };
}
