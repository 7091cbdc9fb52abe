/** An event of a calendar as a file for readers' own calendars. */
import { writeEvent } from "#core/items/calendars/index.ts";
import { refOfItem } from "#core/items/index.ts";
import { servicesContext } from "#server/http/context.ts";
import { getItems } from "#server/store/items.ts";
import type { Route } from "./+types/reader.event.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { database, clock, config } = context.get(servicesContext);
  const asked = { source: params.source, key: params.key };
  const item = (await getItems(database.sql, [asked])).get(refOfItem(asked));
  if (item?.kind !== "calendar") {
    return new Response("This event is over, or was called off.", { status: 404 });
  }
  return new Response(writeEvent(item, new URL(config.publicAddress).hostname, clock.now()), {
    headers: {
      "Content-Type": "text/calendar; charset=utf-8; method=PUBLISH",
      "Content-Disposition": 'attachment; filename="event.ics"',
    },
  });
}
