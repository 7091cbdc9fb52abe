/** Pictures in the data folder, under the SHA-256 of their content. */
import { createHash } from "node:crypto";
import { mkdir, readdir } from "node:fs/promises";
import { join } from "node:path";
import pLimit from "p-limit";
import sharp from "sharp";
import { LIMITS } from "#core/limits.ts";
import { nameInAddress } from "#core/picture-id.ts";
import { isSentWidth } from "#core/pictures/sizes.ts";
import type { NewPicture } from "../store/pictures.ts";
import { writeWhole } from "../whole-file.ts";
import { type Converted, PictureError } from "./convert.ts";
import type { Convert } from "./in-child.ts";
import { likenessOf } from "./likeness.ts";
import { tonesOf } from "./tones.ts";
import { asJpeg, asPng, type Written } from "./written.ts";

export { PictureError } from "./convert.ts";

const FILE = /^[a-f0-9]{64}\.(png|jpg|gif|webp)$/;

export interface PictureFolder {
  readonly folder: string;
  /**
   * Makes a picture fit for email (at most twice the widest email, no metadata, a format every mail
   * program shows) and keeps it. One that is too large is taken where it may be shrunk. Throws a
   * PictureError for anything that is not a picture, or too large.
   */
  add(data: Buffer, name: string, shrink?: boolean): Promise<NewPicture>;
  /** Keeps what was made of a picture by its recipe. */
  keep(made: Written, name: string): Promise<NewPicture>;
  /** Where the file is that parts of a picture are cut out of. */
  masterOf(picture: { readonly file: string; readonly master: string | null }): string;
  /** The file of a picture at a width, px, made where it is not there yet; null where none is made. */
  sized(file: string, width: number): Promise<string | null>;
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
  const masters = join(dataFolder, "masters");
  const sizes = join(dataFolder, "sizes");
  await Promise.all([masters, sizes].map((one) => mkdir(one, { recursive: true })));
  // Every reader asks for them: those that are there cost nothing, and those that are not are made once.
  const made = new Set(await readdir(sizes));
  const making = new Map<string, Promise<void>>();
  const few = pLimit(LIMITS.picturesAtOnce);

  /** Puts a file into the folder under its content's name. */
  async function put(data: Buffer, ending: string): Promise<{ id: string; file: string }> {
    const id = createHash("sha256").update(data).digest("hex");
    const file = `${id}.${ending}`;
    await writeWhole(join(folder, file), data);
    know(file);
    return { id, file };
  }

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
      const { id, file } = await put(made.data, made.ending);
      const master = made.master && `${id}.${made.master.ending}`;
      if (master) await writeWhole(join(masters, master), made.master!.data);
      const { width, height, alpha, tones, likeness } = made;
      const bytes = made.data.length;
      return {
        ...{ id, file, name: name.slice(0, LIMITS.nameLength), width, height, alpha },
        ...{ bytes, tones, likeness, master },
      };
    },
    async keep(made, name) {
      const { data, ending, width, height, alpha } = made;
      const { id, file } = await put(data, ending);
      const [tones, likeness] = await Promise.all([tonesOf(data), likenessOf(data)]);
      return { id, file, name, width, height, alpha, bytes: data.length, tones, likeness };
    },
    masterOf: ({ file, master }) => (master ? join(masters, master) : join(folder, file)),
    async sized(name, width) {
      const file = files.get(name);
      const drawn = file && !file.endsWith(".gif");
      if (!drawn || !isSentWidth(width) || width >= LIMITS.emailWidth.max * 2) return null;
      const own = `${width}-${file}`;
      if (!made.has(own)) {
        const work =
          making.get(own) ?? few(() => makeSize(join(folder, file), join(sizes, own), width));
        making.set(own, work);
        await work.finally(() => making.delete(own));
        made.add(own);
      }
      return join(sizes, own);
    },
  };
}

/** Makes a file at a width. */
async function makeSize(from: string, to: string, width: number): Promise<void> {
  const image = sharp(from).timeout({ seconds: LIMITS.pictureMs / 1_000 });
  const small = image.resize({ width, withoutEnlargement: true });
  const data = await (from.endsWith(".jpg") ? asJpeg(small) : asPng(small)).toBuffer();
  await writeWhole(to, data);
}
