/** The pictures of what was brought, put into the library: those beside it, and those on the web. */
import type { FilePicture } from "#core/files/index.ts";
import { LIMITS } from "#core/limits.ts";
import { PictureError } from "../images/pictures.ts";
import type { Services } from "../services.ts";
import { getPictures, savePicture } from "../store/pictures.ts";

const nameOf = (src: string, n: number): string => {
  const last = src.split(/[?#]/)[0]!.split("/").at(-1) ?? "";
  const name = /^[\w .()-]{1,100}$/.test(last) ? last.replace(/\.\w{2,4}$/, "") : "";
  return name && !/^(cid|embedded)/.test(src) ? name : `Image ${n}`;
};

/** Adds one; null where it is no picture of ours. */
async function added(services: Services, bytes: Uint8Array, name: string): Promise<string | null> {
  const { pictures, database, clock } = services;
  try {
    const picture = await pictures.add(Buffer.from(bytes), name, true);
    await savePicture(database.sql, picture, clock.now());
    return picture.id;
  } catch (error) {
    if (error instanceof PictureError) return null;
    throw error;
  }
}

/**
 * Puts the pictures into the library that HTML names, by their addresses: those that came along, and those that can be
 * fetched in time. Null for the others.
 */
export async function takePictures(
  services: Services,
  images: readonly string[],
  beside: ReadonlyMap<string, Uint8Array>,
): Promise<Record<string, string | null>> {
  const found: Record<string, string | null> = Object.fromEntries(images.map((src) => [src, null]));
  const until = AbortSignal.timeout(LIMITS.foreignFetchMs);
  const left = images.slice(0, LIMITS.foreignPictures).entries();
  const one = async () => {
    for (const [i, src] of left) {
      if (until.aborted) return;
      let bytes = beside.get(src) ?? null;
      if (!bytes && /^https?:/i.test(src)) {
        const options = { most: LIMITS.pictureUpload, accept: "image/*", signal: until };
        bytes = await services.fetcher(src, options).then(
          (answer) => answer.bytes,
          // Whatever it is: the picture stays where it is.
          () => null,
        );
      }
      if (bytes) found[src] = await added(services, bytes, nameOf(src, i + 1));
    }
  };
  await Promise.all(Array.from({ length: LIMITS.foreignAtOnce }, one));
  return found;
}

/** Puts the pictures of a file of ours into the library; gives those that have another id here. */
export async function takeFilePictures(
  services: Services,
  pictures: readonly FilePicture[],
): Promise<Map<string, string>> {
  const known = await getPictures(
    services.database.sql,
    pictures.map(({ id }) => id),
  );
  const here = new Set(known.map(({ id }) => id));
  const changed = new Map<string, string>();
  for (const { id, name, base64 } of pictures) {
    if (here.has(id)) continue;
    const own = await added(services, Buffer.from(base64, "base64"), name);
    if (own && own !== id) changed.set(id, own);
  }
  return changed;
}
