/** Fonts of the house: listed, and brought as files. */
import { LIMITS } from "#core/limits.ts";
import { ArrivalError } from "#server/arriving/error.ts";
import { addFont, listFonts } from "#server/store/fonts.ts";
import { sentForm } from "../form.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.fonts.ts";

export const loader = async ({ context }: Route.LoaderArgs) =>
  Response.json({ fonts: await listFonts(at(context).sql) });

const refuse = (message: string, status = 400) => Response.json({ message }, { status });
const TOO_LARGE = `A font may have at most ${LIMITS.fontBytes / 1_000} KB: readers load it. One with the letters you need alone is smaller.`;

export async function action({ request, context }: Route.ActionArgs) {
  const file = (await sentForm(request)).get("file");
  if (!(file instanceof File) || file.size === 0) return refuse("Choose a font file.");
  if (file.size > LIMITS.fontBytes) return refuse(TOO_LARGE);
  const { services, sql, now } = at(context);
  try {
    const bytes = new Uint8Array(await file.arrayBuffer());
    const read = await services.arriving.font(bytes);
    const font = { id: await services.fonts.add(bytes, "woff2"), ...read };
    if (!(await addFont(sql, font, now))) return refuse(`At most ${LIMITS.fonts} fonts.`, 409);
    return Response.json({ font });
  } catch (error) {
    if (error instanceof ArrivalError) return refuse(error.message);
    throw error;
  }
}
