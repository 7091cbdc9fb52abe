/** An image as a recipe makes it of its original; nothing is kept. */
import { parseJson } from "#core/json.ts";
import { pictureRecipeSchema } from "#core/pictures/recipe.ts";
import { drawnFrom } from "#server/images/editing.ts";
import { PictureError } from "#server/images/pictures.ts";
import { getPicture } from "#server/store/pictures.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.picture-look.ts";

/** Letters of a recipe in an address. */
const LONGEST = 8_000;

function recipeIn(text: string) {
  if (text.length > LONGEST) return null;
  try {
    const json = parseJson(Buffer.from(text, "base64url").toString("utf8"));
    return pictureRecipeSchema.safeParse(json).data ?? null;
  } catch {
    return null;
  }
}

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { services, sql } = at(context);
  const recipe = recipeIn(new URL(request.url).searchParams.get("recipe") ?? "");
  if (!recipe) return new Response("This cannot be done to an image.", { status: 400 });
  const original = await getPicture(sql, params.picture);
  if (!original) return new Response("This image is gone.", { status: 404 });
  try {
    const { data, ending } = await drawnFrom(services, original, recipe, request.signal);
    return new Response(new Uint8Array(data), {
      headers: {
        "Content-Type": ending === "jpg" ? "image/jpeg" : "image/png",
        "Cache-Control": "private, max-age=300",
      },
    });
  } catch (error) {
    if (error instanceof PictureError) return new Response(error.message, { status: 409 });
    throw error;
  }
}
