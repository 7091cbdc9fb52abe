/** Where a saved block stands, linked; and what it says, changed everywhere. */
import { z } from "zod";
import { EditError, nodeSchema } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { changeEverywhere } from "#server/campaigns/linking.ts";
import { getSaved, linkedPlaces } from "#server/store/saved.ts";
import { at, jsonOf } from "../request.ts";
import type { Route } from "./+types/api.saved-places.ts";

const refuse = (message: string, status = 400) => Response.json({ message }, { status });
const GONE = "This saved block is gone.";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const saved = await getSaved(sql, params.saved);
  if (!saved) return refuse(GONE, 404);
  const places = await linkedPlaces(sql, saved.id);
  return Response.json({
    ...{ name: saved.name, nodes: saved.nodes },
    places: places.map(({ kind, name, fixed }) => ({ kind, name, fixed })),
  });
}

const schema = z.object({ node: nodeSchema });

export async function action({ request, params, context }: Route.ActionArgs) {
  const asked = schema.safeParse(await jsonOf(request, LIMITS.editRequest));
  if (!asked.success) return refuse("This cannot be saved.");
  const { services, member } = at(context);
  try {
    const changed = await changeEverywhere(services, params.saved, asked.data.node, member.id);
    return changed ? Response.json({}) : refuse(GONE, 404);
  } catch (error) {
    if (error instanceof EditError) return refuse(error.message);
    throw error;
  }
}
