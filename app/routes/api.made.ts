/** Pictures made from a recipe: with a seal for everybody, without one for the team (public.ts). */

import { servicesContext } from "#server/http/context.ts";
import { isFleeting, keptKey, keptPicture, makePicture, readRecipe } from "#server/images/made.ts";
import { pictureFile } from "#server/store/pictures.ts";
import type { Route } from "./+types/api.made.ts";

const YEAR_SECONDS = 31_536_000;
const notFound = () => new Response("There is no such image.", { status: 404 });

export async function loader({ params, context }: Route.LoaderArgs) {
  const services = context.get(servicesContext);
  const [, seal, ending] = /^([A-Za-z0-9_-]+)\.(png|jpg)$/.exec(params.file) ?? [];
  const recipe = readRecipe(params.recipe);
  if (!recipe || !seal) return notFound();
  // An unsealed address has come past the guard, so that somebody is signed in.
  if (seal !== "-" && !services.signer.sealed(params.recipe, seal)) return notFound();
  const fileOf = (id: string) => pictureFile(services.database.sql, id);
  const now = services.clock.now();
  const picture = await keptPicture(keptKey(params.recipe, recipe, now), () =>
    makePicture(recipe, services.pictures.folder, fileOf, now),
  );
  if (!picture) return notFound();
  return new Response(new Uint8Array(picture), {
    headers: {
      "Content-Type": ending === "jpg" ? "image/jpeg" : "image/png",
      "Cache-Control": isFleeting(recipe)
        ? "no-store"
        : `public, max-age=${YEAR_SECONDS}, immutable`,
      "Cross-Origin-Resource-Policy": "cross-origin",
    },
  });
}
