/** The people of a view of the contacts table as CSV; import reads it back. */
import { ruleOfView, viewSchema } from "#server/contact-views.ts";
import { peopleRows } from "#server/export-people.ts";
import { worldOf } from "#server/world.ts";
import { csvResponse } from "../csv-response.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.export.ts";

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql, services } = at(context);
  const view = viewSchema
    .catch(viewSchema.parse({}))
    .parse(Object.fromEntries(new URL(request.url).searchParams));
  const rule = ruleOfView(view);
  const world = await worldOf(sql, services.clock, rule ? [rule] : []);
  return csvResponse("people.csv", peopleRows(services, view, world));
}
