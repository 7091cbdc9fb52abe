/** The first frame of an animation, as programs show it that play none. */
import { join } from "node:path";
import sharp from "sharp";
import { LIMITS } from "#core/limits.ts";
import { getPicture } from "#server/store/pictures.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.picture-first.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, sql } = at(context);
  const picture = await getPicture(sql, params.picture);
  if (!picture) return new Response("This image is gone.", { status: 404 });
  const file = join(services.pictures.folder, picture.file);
  const frame = await sharp(file)
    .timeout({ seconds: LIMITS.pictureMs / 1_000 })
    .png()
    .toBuffer()
    .catch(() => null);
  // Its file is gone, or damaged.
  if (!frame) return new Response("This image cannot be drawn.", { status: 404 });
  return new Response(new Uint8Array(frame), {
    headers: { "Content-Type": "image/png", "Cache-Control": "private, max-age=31536000" },
  });
}
