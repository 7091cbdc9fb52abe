/** Pictures in the data folder, under the SHA-256 of their content. */
import { createHash } from "node:crypto";
import { mkdir, writeFile } from "node:fs/promises";
import { join } from "node:path";
import sharp, { type OutputInfo } from "sharp";
import type { Picture } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";

/** A file that cannot become a picture; the message is for the person. */
export class PictureError extends Error {}

export interface PictureFolder {
  readonly folder: string;
  /**
   * Makes a picture fit for email (at most twice the widest email, no metadata, a format every mail
   * program shows) and keeps it. Throws a PictureError for anything that is not a picture.
   */
  add(data: Buffer, name: string): Promise<Picture & { bytes: number }>;
}

const WIDEST = LIMITS.emailWidth.max * 2;

async function convert(data: Buffer): Promise<{ data: Buffer; ending: string; info: OutputInfo }> {
  const image = sharp(data, { animated: true, limitInputPixels: LIMITS.pictureSide ** 2 });
  const { format, hasAlpha, pages } = await image.metadata();
  if (!format || !["png", "jpeg", "gif", "webp", "svg"].includes(format)) {
    throw new PictureError("This is not a PNG, JPEG, GIF or WebP picture.");
  }
  if (format === "gif" && (pages ?? 1) > 1) {
    const out = await image
      .resize({ width: WIDEST, withoutEnlargement: true })
      .gif()
      .toBuffer({ resolveWithObject: true });
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
    async add(data, name) {
      if (data.length > LIMITS.pictureBytes) {
        throw new PictureError(`A picture may have at most ${LIMITS.pictureBytes / 1e6} MB.`);
      }
      const made = await convert(data).catch((error) => {
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
