/** A campaign's email as it would be with its template's change, as a page for a frame that runs nothing. */
import { withChange } from "#server/campaigns/carrying.ts";
import { previewOf } from "#server/campaigns/looks.ts";
import { sheetPolicy } from "#server/http/policies.ts";
import { getTemplate } from "#server/store/templates.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.with-change.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { sql, services } = at(context);
  const template = await getTemplate(sql, params.template);
  const doc = template && (await withChange(sql, template, params.campaign));
  if (!doc) return new Response("There is no such email.", { status: 404 });
  return new Response(await previewOf(services, doc), {
    headers: {
      "Content-Type": "text/html; charset=utf-8",
      "Content-Security-Policy": sheetPolicy,
      "Cache-Control": "private, max-age=60",
    },
  });
}
