/** Pictures in the data folder, under the SHA-256 of their content. */
import { createHash } from "node:crypto";
import { mkdir, readdir, writeFile } from "node:fs/promises";
import { join } from "node:path";
import type { Picture } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import { nameInAddress } from "#core/picture-id.ts";
import { type Converted, PictureError } from "./convert.ts";
import type { Convert } from "./in-child.ts";

export { PictureError } from "./convert.ts";

const FILE = /^[a-f0-9]{64}\.(png|jpg|gif|webp)$/;

export interface PictureFolder {
  readonly folder: string;
  /**
   * Makes a picture fit for email (at most twice the widest email, no metadata, a format every mail
   * program shows) and keeps it. One that is too large is taken where it may be shrunk. Throws a
   * PictureError for anything that is not a picture, or too large.
   */
  add(data: Buffer, name: string, shrink?: boolean): Promise<Picture & { bytes: number }>;
  /** The same, and nothing is kept. */
  convert(data: Buffer): Promise<Converted>;
  /** The file that is meant by its own name, or by the shorter one it has in addresses; null where there is none. */
  fileOf(name: string): string | null;
}

/** What to say of a file that cannot even be made smaller. */
export const TOO_LARGE = `An image may have at most ${LIMITS.pictureUpload / 1e6} MB, even to be made smaller.`;

/** Opens the folder; `convert` makes files pictures, under a time limit where they come from outside. */
export async function openPictures(dataFolder: string, convert: Convert): Promise<PictureFolder> {
  const folder = join(dataFolder, "pictures");
  await mkdir(folder, { recursive: true });
  // Files outlive their entry in the library: emails that were sent show them.
  const files = new Map<string, string>();
  const know = (file: string) => {
    if (!FILE.test(file)) return;
    files.set(file, file);
    files.set(nameInAddress(file), file);
  };
  for (const file of await readdir(folder)) know(file);
  return {
    folder,
    fileOf: (name) => files.get(name) ?? null,
    convert: (data) => convert(data, true),
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
      know(file);
      const { width, height, alpha, tones } = made;
      const bytes = made.data.length;
      return { id, file, name: name.slice(0, 120), width, height, alpha, bytes, tones };
    },
  };
}
