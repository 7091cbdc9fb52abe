/** What can be done to an image, asked; and what was done to it, kept: as an image of its own, or in its place. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { PICTURE_ID } from "#core/picture-id.ts";
import { pictureRecipeSchema } from "#core/pictures/recipe.ts";
import { replaceEverywhere } from "#server/campaigns/replacing.ts";
import { makeEdited, originalOf } from "#server/images/editing.ts";
import { PictureError } from "#server/images/pictures.ts";
import { getPicture } from "#server/store/pictures.ts";
import { REPLACED_BEFORE } from "../pictures/replaced.ts";
import { at, jsonOf } from "../request.ts";
import type { Route } from "./+types/api.picture-make.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, sql } = at(context);
  const picture = await getPicture(sql, params.picture);
  if (!picture) return refuse("This image is gone.", 404);
  return Response.json({ picture, ...(await originalOf(services, picture)) });
}

const schema = z.object({
  recipe: pictureRecipeSchema,
  /** A copy stands beside the image; one in its place stands wherever that stood. */
  as: z.enum(["copy", "place"]),
  /** By which it had been replaced when the person looked. */
  seen: z.string().regex(PICTURE_ID).nullable(),
});
const refuse = (message: string, status = 400) => Response.json({ message }, { status });

export async function action({ request, params, context }: Route.ActionArgs) {
  const { services, sql, member } = at(context);
  const asked = schema.safeParse(await jsonOf(request));
  if (!asked.success) return refuse("This cannot be done to an image.");
  const { recipe, as, seen } = asked.data;
  const picture = await getPicture(sql, params.picture);
  if (!picture) return refuse("This image is gone.", 404);
  if (as === "place" && picture.replacedBy !== seen) return refuse(REPLACED_BEFORE, 409);
  try {
    const { original } = await originalOf(services, picture);
    const name =
      as === "copy" ? `${picture.name.slice(0, LIMITS.nameLength - 9)}, edited` : picture.name;
    const made = await makeEdited(services, original, recipe, { name, alt: picture.alt ?? "" });
    if (as === "copy" || made.id === picture.id)
      return Response.json({ picture: made, replaced: null });
    const replaced = await replaceEverywhere(services, {
      ...{ from: picture.id, to: made.id, seen, member },
    });
    return replaced ? Response.json({ picture: made, replaced }) : refuse(REPLACED_BEFORE, 409);
  } catch (error) {
    if (error instanceof PictureError) return refuse(error.message, 409);
    throw error;
  }
}
