/** The people of a view of the contacts table as CSV; import reads it back. */
import { data } from "react-router";
import { peopleRows } from "#server/audience/export-people.ts";
import { worldOf } from "#server/audience/world.ts";
import { ruleOfView, viewSchema } from "#server/store/views.ts";
import { csvResponse } from "../csv-response.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.export.ts";

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql, services } = at(context);
  const asked = viewSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  // Whoever asked for some people is not given all.
  if (!asked.success) throw data("This view could not be read.", { status: 400 });
  const view = asked.data;
  const rule = ruleOfView(view);
  const world = await worldOf(sql, services.clock, rule ? [rule] : []);
  return csvResponse("people.csv", peopleRows(services, view, world));
}
