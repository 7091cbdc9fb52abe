/** The log of a launch: what became of each message, in the service's words. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { LOGGED, logOf } from "#server/store/launches/progress.ts";
import { at, campaignOf, zoneOf } from "../request.ts";
import { dayAndTime } from "../ui/words.ts";
import type { Route } from "./+types/api.log.ts";

const querySchema = z.object({
  state: z.enum(LOGGED).nullable().catch(null),
  search: z.string().max(LIMITS.addressLength).catch(""),
  from: z.coerce.number().int().min(0).max(10_000_000).catch(0),
});

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { launchId } = await campaignOf(context, params.campaign);
  const query = new URL(request.url).searchParams;
  const { state, search, from } = querySchema.parse(Object.fromEntries(query));
  const zone = await zoneOf(context);
  const most = LIMITS.logLines;
  const lines = launchId
    ? await logOf(at(context).sql, launchId, { state, search: search.trim() }, from, most + 1)
    : [];
  return Response.json({
    more: lines.length > most,
    lines: lines.slice(0, most).map(({ at: when, ...line }) => ({
      ...line,
      when: when && dayAndTime(when, zone),
    })),
  });
}
