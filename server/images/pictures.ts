/** Pictures in the data folder, under the SHA-256 of their content. */
import { createHash } from "node:crypto";
import { mkdir, writeFile } from "node:fs/promises";
import { join } from "node:path";
import type { Picture } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import { PictureError } from "./convert.ts";
import type { Convert } from "./in-child.ts";

export { PictureError } from "./convert.ts";

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
export const TOO_LARGE = `An image may have at most ${LIMITS.pictureUpload / 1e6} MB, even to be made smaller.`;

/** Opens the folder; `convert` makes files pictures, under a time limit where they come from outside. */
export async function openPictures(dataFolder: string, convert: Convert): Promise<PictureFolder> {
  const folder = join(dataFolder, "pictures");
  await mkdir(folder, { recursive: true });
  return {
    folder,
    async add(data, name, shrink = false) {
      if (data.length > LIMITS.pictureUpload) throw new PictureError(TOO_LARGE);
      if (data.length > LIMITS.pictureBytes && !shrink) {
        throw new PictureError(
          `This image has ${Math.round(data.length / 1e5) / 10} MB; at most ${LIMITS.pictureBytes / 1e6} MB are taken as they are.`,
          true,
        );
      }
      const made = await convert(data, shrink);
      const id = createHash("sha256").update(made.data).digest("hex");
      const file = `${id}.${made.ending}`;
      await writeFile(join(folder, file), made.data);
      const { width, height, alpha } = made;
      const bytes = made.data.length;
      return { id, file, name: name.slice(0, 120), width, height, alpha, bytes };
    },
  };
}
