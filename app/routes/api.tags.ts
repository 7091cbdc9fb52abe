/** Of every merge tag: how many of a campaign's readers (or of all who can be mailed) have a value, and examples. */
import { constantSql } from "#core/rules/index.ts";
import { worldOf } from "#server/audience/world.ts";
import { rulesOfAudience } from "#server/store/audience.ts";
import { readersSql } from "#server/store/readers.ts";
import { tagShares } from "#server/store/tag-values.ts";
import { at, campaignOf } from "../request.ts";
import type { Route } from "./+types/api.tags.ts";

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql, services } = at(context);
  const id = new URL(request.url).searchParams.get("campaign");
  const campaign = id ? await campaignOf(context, id) : null;
  const rules = campaign ? rulesOfAudience(campaign.audience) : [];
  const world = await worldOf(sql, services.clock, rules);
  const among = campaign ? readersSql(campaign, world) : constantSql("c.held is null");
  return Response.json(await tagShares(sql, world, among));
}
