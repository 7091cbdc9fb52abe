/** A message's HTML for its frame: nothing in it runs, and links open in a tab of their own. */
import { simpleParser } from "mailparser";
import { messagePolicy } from "#server/http/policies.ts";
import { messageSource } from "#server/store/outbox.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.outbox-html.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const source = await messageSource(at(context).sql, Number(params.message) || 0);
  const parsed = source && (await simpleParser(source, { skipImageLinks: true }));
  const html = (parsed?.html || "<p>There is no HTML in this message.</p>").replace(
    /<head([^>]*)>/i,
    '<head$1><base target="_blank">',
  );
  return new Response(html, {
    status: source ? 200 : 404,
    headers: {
      "Content-Type": "text/html; charset=utf-8",
      "Content-Security-Policy": messagePolicy,
    },
  });
}
