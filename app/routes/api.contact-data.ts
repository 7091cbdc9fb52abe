/** A copy of everything known of a person, as JSON. */
import { copyOfData } from "#server/store/erasing.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.contact-data.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const id = Number(params.contact);
  const copy = Number.isSafeInteger(id) ? await copyOfData(at(context).sql, id) : null;
  if (!copy) return new Response("This person is gone.", { status: 404 });
  return new Response(JSON.stringify(copy, null, 2), {
    headers: {
      "Content-Type": "application/json",
      "Content-Disposition": `attachment; filename="person-${id}.json"`,
      "Cache-Control": "no-store",
    },
  });
}
