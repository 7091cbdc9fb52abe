/** The open pixel. A token that was not made here is no image and no event. */
import { servicesContext } from "#server/http/context.ts";
import { signalOf } from "#server/http/signal.ts";
import { getRecipient } from "#server/store/launches/progress.ts";
import { recordReading } from "#server/store/reading.ts";
import { openedTest } from "#server/store/tests.ts";
import type { Route } from "./+types/reader.open.ts";

/** One transparent pixel (GIF89a). */
const PIXEL = Buffer.from("R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7", "base64");

const pixel = () =>
  new Response(PIXEL, {
    headers: { "Content-Type": "image/gif", "Cache-Control": "no-store, max-age=0" },
  });

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { database, signer, clock } = context.get(servicesContext);
  const token = params.token.endsWith(".gif") ? signer.read(params.token.slice(0, -4)) : null;
  if (token?.kind === "test") {
    await openedTest(database.sql, token.message, clock.now());
    return pixel();
  }
  const recipient =
    token?.kind === "message" ? await getRecipient(database.sql, token.recipient) : null;
  if (!recipient) return new Response("Not found", { status: 404 });
  await recordReading(database.sql, "opened", recipient, clock.now(), signalOf(request));
  return pixel();
}
