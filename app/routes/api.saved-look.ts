/** A saved block as a page for a frame that runs nothing, in the theme of new emails. */
import { mergeText, prepare, unsigned } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { surroundings } from "#server/campaigns/emails.ts";
import { inTheme } from "#server/campaigns/looks.ts";
import { sheetPolicy } from "#server/http/policies.ts";
import { emailOf, getSaved } from "#server/store/saved.ts";
import { getSettings } from "#server/store/settings.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.saved-look.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { sql, services, now } = at(context);
  const saved = await getSaved(sql, params.saved);
  if (!saved) return new Response("This is gone.", { status: 404 });
  const doc = inTheme(emailOf(saved.nodes), (await getSettings(sql)).theme);
  const around = await surroundings(sql, services.config, doc, now);
  const email = compile(doc, { ...around, publicAddress: "" });
  const options = { links: "direct", marks: false, unfilled: true, sign: unsigned } as const;
  const html = mergeText(prepare(email, options).html, { values: {}, token: "" });
  return new Response(html, {
    headers: {
      "Content-Type": "text/html; charset=utf-8",
      "Content-Security-Policy": sheetPolicy,
      "Cache-Control": "private, max-age=60",
    },
  });
}
