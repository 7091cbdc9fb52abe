/** Uploading a picture. */
import { LIMITS } from "#core/limits.ts";
import { PictureError } from "#server/images/pictures.ts";
import { savePicture } from "#server/store/pictures.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.pictures.ts";

const refuse = (error: string, status = 400) => Response.json({ error }, { status });

export async function action({ request, context }: Route.ActionArgs) {
  const { services, sql, now } = at(context);
  const tooLarge = `A picture may have at most ${LIMITS.pictureBytes / 1e6} MB.`;
  if (Number(request.headers.get("content-length")) > LIMITS.pictureBytes + 10_000) {
    return refuse(tooLarge, 413);
  }
  const file = (await request.formData()).get("file");
  if (!(file instanceof File) || file.size === 0) return refuse("Choose a picture.");
  try {
    const data = Buffer.from(await file.arrayBuffer());
    const picture = await services.pictures.add(data, file.name);
    await savePicture(sql, picture, now);
    return Response.json({ picture });
  } catch (error) {
    if (error instanceof PictureError) return refuse(error.message);
    throw error;
  }
}
