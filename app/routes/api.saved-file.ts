/** Saved blocks as a file, for another Septima. */
import { emailOf, getSaved } from "#server/store/saved.ts";
import { ownFile } from "../own-file.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.saved-file.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, sql } = at(context);
  const saved = await getSaved(sql, params.saved);
  if (!saved) return new Response("This is gone.", { status: 404 });
  const { name, kind: of } = saved;
  const doc = emailOf(saved.nodes);
  return ownFile(services, { kind: "saved", name, about: "", category: "", of, doc });
}
