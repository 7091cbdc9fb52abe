/** Web addresses used in the latest emails, this one's first: offered where a link is made. */
import { usedAddresses } from "#server/store/addresses.ts";
import { at, campaignOf } from "../request.ts";
import type { Route } from "./+types/api.addresses.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { documentId } = await campaignOf(context, params.campaign);
  return Response.json(await usedAddresses(at(context).sql, documentId));
}
