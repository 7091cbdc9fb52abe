/** Saved blocks of another Septima, from a file. */
import { EditError } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { bringSaved } from "#server/arriving/arrive.ts";
import { ArrivalError } from "#server/arriving/error.ts";
import { sentForm } from "../form.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.saved-brought.ts";

const refuse = (message: string) => Response.json({ message }, { status: 400 });

export async function action({ request, context }: Route.ActionArgs) {
  const { services, member } = at(context);
  const file = (await sentForm(request)).get("file");
  if (!(file instanceof File) || file.size === 0) return refuse("Choose a file.");
  if (file.size > LIMITS.foreignUpload) return refuse("This file is too large.");
  try {
    const bytes = new Uint8Array(await file.arrayBuffer());
    return Response.json({ id: await bringSaved(services, { name: file.name, bytes }, member.id) });
  } catch (error) {
    if (error instanceof ArrivalError || error instanceof EditError) return refuse(error.message);
    throw error;
  }
}
