/** How far the sending of a campaign is: asked for again and again while somebody looks on. */

import { campaignOf, zoneOf } from "../request.ts";
import { sendingOf } from "../schedule/sending-data.ts";
import type { Route } from "./+types/api.sending.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const campaign = await campaignOf(context, params.campaign);
  const sending = await sendingOf(context, campaign, campaign.zone ?? (await zoneOf(context)));
  return Response.json(sending);
}
