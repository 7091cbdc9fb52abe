/** A message as it was handed over (RFC 5322), to download. */
import { messageSource } from "#server/store/outbox.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.outbox-source.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const source = await messageSource(at(context).sql, Number(params.message) || 0);
  if (!source) return new Response("This message is gone.", { status: 404 });
  return new Response(new Uint8Array(source), {
    headers: {
      "Content-Type": "message/rfc822",
      "Content-Disposition": `attachment; filename="message-${Number(params.message)}.eml"`,
    },
  });
}
