/** Fonts of the house: listed, and brought as files. */
import { LIMITS } from "#core/limits.ts";
import { takeFont } from "#server/arriving/carried.ts";
import { ArrivalError } from "#server/arriving/error.ts";
import { listFonts } from "#server/store/fonts.ts";
import { sentForm } from "../form.ts";
import { at } from "../request.ts";
import { fileSize } from "../ui/words.ts";
import type { Route } from "./+types/api.fonts.ts";

export const loader = async ({ context }: Route.LoaderArgs) =>
  Response.json({ fonts: await listFonts(at(context).sql) });

const refuse = (message: string) => Response.json({ message }, { status: 400 });
const TOO_LARGE = `A font may have at most ${fileSize(LIMITS.fontBytes)}: readers load it. One with the letters you need alone is smaller.`;

export async function action({ request, context }: Route.ActionArgs) {
  const file = (await sentForm(request)).get("file");
  if (!(file instanceof File) || file.size === 0) return refuse("Choose a font file.");
  if (file.size > LIMITS.fontBytes) return refuse(TOO_LARGE);
  try {
    const font = await takeFont(at(context).services, new Uint8Array(await file.arrayBuffer()));
    return Response.json({ font });
  } catch (error) {
    if (error instanceof ArrivalError) return refuse(error.message);
    throw error;
  }
}
