/** Images of the library that are made of others by recipes. */
import pLimit from "p-limit";
import { LIMITS } from "#core/limits.ts";
import { isPlain, type PictureRecipe } from "#core/pictures/recipe.ts";
import type { Services } from "../services.ts";
import {
  getPicture,
  type LibraryPicture,
  type NewPicture,
  savePicture,
} from "../store/pictures.ts";
import { edited } from "./edit.ts";
import { PictureError } from "./pictures.ts";
import type { Written } from "./written.ts";

/** The image that a picture's recipe begins with: the one it was made from, as long as that is there. */
export async function originalOf(
  services: Services,
  picture: LibraryPicture,
): Promise<{ original: LibraryPicture; recipe: PictureRecipe | null }> {
  const { sql } = services.database;
  const from = picture.madeFrom && picture.recipe && (await getPicture(sql, picture.madeFrom));
  return from ? { original: from, recipe: picture.recipe } : { original: picture, recipe: null };
}

const few = pLimit(LIMITS.picturesAtOnce);
const NOT_DRAWN = "This could not be drawn. Do less to it, or try again.";

/** What a recipe makes of an original; nothing is kept. Throws a PictureError; nothing is drawn for who has left by then. */
export async function drawnFrom(
  { pictures, log }: Services,
  original: LibraryPicture,
  recipe: PictureRecipe,
  leaving?: AbortSignal,
): Promise<Written> {
  if (original.file.endsWith(".gif")) {
    throw new PictureError("An animation stays as it is: only stills can be edited.");
  }
  try {
    return await few(() => {
      leaving?.throwIfAborted();
      return edited(pictures.masterOf(original), recipe);
    });
  } catch (error) {
    if (!leaving?.aborted)
      log.warn({ error, picture: original.id }, "an image could not be edited");
    throw new PictureError(NOT_DRAWN);
  }
}

/** Makes an image of another and keeps it in the library. The plain recipe gives the original back. Throws a PictureError. */
export async function makeEdited(
  services: Services,
  original: LibraryPicture,
  recipe: PictureRecipe,
  said: { readonly name: string; readonly alt: string },
): Promise<LibraryPicture | NewPicture> {
  if (isPlain(recipe)) return original;
  const { database, pictures, clock } = services;
  const kept = await pictures.keep(await drawnFrom(services, original, recipe), said.name);
  const { decorative, folder } = original;
  const made = { from: original.id, recipe };
  const picture = { ...kept, alt: said.alt, decorative };
  // It may be the original to the byte.
  if (picture.id === original.id) return original;
  await savePicture(database.sql, picture, clock.now(), { made, folder });
  return picture;
}
