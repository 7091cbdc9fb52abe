/** A saved block as a page for a frame that runs nothing, in the theme of new emails. */
import { inTheme, previewOf } from "#server/campaigns/looks.ts";
import { sheetPolicy } from "#server/http/policies.ts";
import { emailOf, getSaved } from "#server/store/saved.ts";
import { getSettings } from "#server/store/settings.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.saved-look.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { sql, services } = at(context);
  const saved = await getSaved(sql, params.saved);
  if (!saved) return new Response("This is gone.", { status: 404 });
  const { theme } = await getSettings(sql);
  const html = await previewOf(services, inTheme(emailOf(saved.nodes), theme));
  return new Response(html, {
    headers: {
      "Content-Type": "text/html; charset=utf-8",
      "Content-Security-Policy": sheetPolicy,
      "Cache-Control": "private, max-age=60",
    },
  });
}
