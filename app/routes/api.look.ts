/** A small picture of an email, as a page for a frame that runs nothing. */
import { lookAt } from "#server/campaigns/looks.ts";
import { themeNamed } from "#server/campaigns/starting.ts";
import { sheetPolicy } from "#server/http/policies.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.look.ts";

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { services } = at(context);
  const named = new URL(request.url).searchParams.get("theme") ?? "";
  const seq = Number(params.seq);
  const html = Number.isInteger(seq)
    ? await lookAt(services, params.document, seq, await themeNamed(services.database.sql, named))
    : null;
  if (html === null) return new Response("There is no such email.", { status: 404 });
  return new Response(html, {
    headers: {
      "Content-Type": "text/html; charset=utf-8",
      "Content-Security-Policy": sheetPolicy,
      // A state stays as it is; what stands around it (the brand) may change, though.
      "Cache-Control": "private, max-age=600",
    },
  });
}
