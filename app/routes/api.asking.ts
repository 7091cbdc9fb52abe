/** Whether the links of a campaign's email are being asked at this moment. */
import { isAskingLinks } from "#server/links/asking.ts";
import { at, campaignOf } from "../request.ts";
import type { Route } from "./+types/api.asking.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { id } = await campaignOf(context, params.campaign);
  return Response.json({ asking: await isAskingLinks(at(context).services, id) });
}
