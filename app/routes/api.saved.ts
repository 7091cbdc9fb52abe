/** Saved blocks and bands: found by their names, and saved from a sheet. */
import { z } from "zod";
import { EditError, nodeSchema } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { required } from "#server/forms.ts";
import { listSaved, save } from "#server/store/saved.ts";
import { at, jsonOf, searchIn } from "../request.ts";
import type { Route } from "./+types/api.saved.ts";

export const loader = async ({ request, context }: Route.LoaderArgs) =>
  Response.json({
    saved: await listSaved(at(context).sql, {
      words: searchIn(new URL(request.url)),
      limit: LIMITS.savedInTray,
    }),
  });

const schema = z.object({
  name: required("Give it a name that the team will find it by."),
  nodes: z.array(nodeSchema).min(1, "Select something first.").max(LIMITS.savedNodes),
});
const refuse = (message: string, status = 400) => Response.json({ message }, { status });

export async function action({ request, context }: Route.ActionArgs) {
  const asked = schema.safeParse(await jsonOf(request, LIMITS.editRequest));
  if (!asked.success) return refuse(asked.error.issues[0]?.message ?? "This cannot be saved.");
  const { sql, now, member } = at(context);
  try {
    const id = await save(sql, asked.data.name, asked.data.nodes, now, member.id);
    return id ? Response.json({ id }) : refuse(`At most ${LIMITS.savedBlocks} saved blocks.`, 409);
  } catch (error) {
    if (error instanceof EditError) return refuse(error.message);
    throw error;
  }
}
