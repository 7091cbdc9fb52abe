/** How far the sending of a campaign is: an event whenever it has come further, while somebody looks on. */
import { setTimeout as sleep } from "node:timers/promises";
import { eventStream } from "../event-stream.ts";
import { at, campaignOf, zoneOf } from "../request.ts";
import { sendingOf } from "../schedule/sending-data.ts";
import type { Route } from "./+types/api.sending.ts";

/** The rest between two looks, ms; where a look takes long, more of it. */
const REST_MS = 700;
const PATIENCE = 8;

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const campaign = await campaignOf(context, params.campaign);
  const zone = campaign.zone ?? (await zoneOf(context));
  const { services } = at(context);
  return eventStream(request, context, ({ send, end }) => {
    const stopped = new AbortController();
    const look = async () => {
      let shown = "";
      while (!stopped.signal.aborted && !services.stopping.aborted) {
        const began = performance.now();
        const now = await campaignOf(context, campaign.id);
        const sending = await services.database.last(() => sendingOf(context, now, zone));
        const { at: _, ...told } = sending ?? { at: 0 };
        if (JSON.stringify(told) !== shown) send(sending);
        shown = JSON.stringify(told);
        if (sending?.state !== "sending") break;
        const took = performance.now() - began;
        await sleep(Math.max(REST_MS, took * PATIENCE), undefined, { signal: stopped.signal });
      }
    };
    // What goes wrong ends the stream; the page asks anew by itself.
    look()
      .catch(() => {})
      .finally(end);
    return { stop: () => stopped.abort() };
  });
}
