/** Pictures of the library: found by their names or ids, and uploaded. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import type { Sql } from "#server/db/database.ts";
import { PictureError, TOO_LARGE } from "#server/images/pictures.ts";
import { folderName } from "#server/store/picture-folders.ts";
import { getPictures, savePicture, searchPictures } from "#server/store/pictures.ts";
import { sentForm } from "../form.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.pictures.ts";

const querySchema = z.object({
  words: z.string().max(LIMITS.searchLength).default(""),
  from: z.coerce.number().int().min(0).max(1_000_000).default(0),
  ids: z
    .string()
    .max(65 * LIMITS.picturesPerPage)
    .optional(),
});

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!query.success) return Response.json({ message: "Ask for less." }, { status: 400 });
  const { ids, ...asked } = query.data;
  if (ids === undefined) return Response.json(await searchPictures(sql, asked));
  const pictures = await getPictures(sql, ids.split(","));
  return Response.json({ pictures, total: pictures.length });
}

const refuse = (error: string, status = 400, shrinkable = false) =>
  Response.json({ error, shrinkable }, { status });

/** The folder it is put into, as far as that is there. */
async function folderIn(sql: Sql, form: FormData): Promise<string | null> {
  const folder = form.get("folder");
  return typeof folder === "string" && (await folderName(sql, folder)) !== null ? folder : null;
}

export async function action({ request, context }: Route.ActionArgs) {
  const { services, sql, now } = at(context);
  if (Number(request.headers.get("content-length")) > LIMITS.pictureUpload + 10_000) {
    return refuse(TOO_LARGE, 413);
  }
  const form = await sentForm(request);
  const file = form.get("file");
  const shrink = form.get("shrink") === "yes";
  if (!(file instanceof File) || file.size === 0) return refuse("Choose an image.");
  try {
    const data = Buffer.from(await file.arrayBuffer());
    const taken = await services.pictures.add(data, file.name, shrink);
    await savePicture(sql, taken, now, { folder: await folderIn(sql, form) });
    // It may have been here before, with an alt text and a name of its own.
    const [picture] = await getPictures(sql, [taken.id]);
    return Response.json({ picture });
  } catch (error) {
    if (error instanceof PictureError) return refuse(error.message, 400, error.shrinkable);
    throw error;
  }
}
