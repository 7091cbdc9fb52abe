/** Files that links lead to, brought from a device. */
import { LIMITS } from "#core/limits.ts";
import { takeLinked } from "#server/arriving/carried.ts";
import { ArrivalError } from "#server/arriving/error.ts";
import { sentForm } from "../form.ts";
import { at } from "../request.ts";
import { fileSize } from "../ui/words.ts";
import type { Route } from "./+types/api.files.ts";

const refuse = (message: string) => Response.json({ message }, { status: 400 });
const TOO_LARGE = `A file may have at most ${fileSize(LIMITS.fileBytes)}.`;

export async function action({ request, context }: Route.ActionArgs) {
  const sent = (await sentForm(request)).get("file");
  if (!(sent instanceof File) || sent.size === 0) return refuse("Choose a file.");
  if (sent.size > LIMITS.fileBytes) return refuse(TOO_LARGE);
  try {
    const bytes = new Uint8Array(await sent.arrayBuffer());
    return Response.json({ file: await takeLinked(at(context).services, sent.name, bytes) });
  } catch (error) {
    if (error instanceof ArrivalError) return refuse(error.message);
    throw error;
  }
}
