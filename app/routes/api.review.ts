/** What a reviewer's link gives beside its page: how a version looks, and room to say something. */
import { z } from "zod";
import { familyOf } from "#core/clients/index.ts";
import { LIMITS } from "#core/limits.ts";
import { counted } from "#server/campaigns/findings.ts";
import { servicesContext } from "#server/http/context.ts";
import { reviewStateOf } from "#server/reviews/deciding.ts";
import { reviewerOf } from "#server/reviews/links.ts";
import { madeUpLooks } from "#server/reviews/looking.ts";
import { comment, decideOn, ReviewError } from "#server/reviews/saying.ts";
import { getCampaign } from "#server/store/campaigns.ts";
import { resolveComment } from "#server/store/reviews.ts";
import { jsonOf } from "../request.ts";
import { reviewerSaysSchema } from "../review/schema.ts";
import type { Route } from "./+types/api.review.ts";

const refuse = (message: string, status: number) => Response.json({ message }, { status });

/** Who has the link, and the campaign it is for; null where it has ended. */
async function reviewing(context: Route.LoaderArgs["context"], token: string) {
  const services = context.get(servicesContext);
  const reviewer = await reviewerOf(services, token);
  const campaign = reviewer && (await getCampaign(services.database.sql, reviewer.campaign));
  return campaign && { services, reviewer, campaign };
}

const askedSchema = z.object({ version: z.string().max(2_000), as: z.enum(["sent", "plainText"]) });

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const asked = askedSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!asked.success) return refuse("There is no such version.", 400);
  const found = await reviewing(context, params.token);
  if (!found) return refuse("This link has ended.", 404);
  const { services, campaign } = found;
  const email = await counted(services, campaign);
  const { version, as } = asked.data;
  const look = email && madeUpLooks(services, campaign, email, familyOf(as))(version);
  return look ? Response.json(look) : refuse("Nobody gets this version any more.", 404);
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const found = await reviewing(context, params.token);
  if (!found) return refuse("This link has ended.", 404);
  const said = reviewerSaysSchema.safeParse(await jsonOf(request, LIMITS.publicForm));
  if (!said.success) return refuse(said.error.issues[0]!.message, 400);
  const { services, reviewer, campaign } = found;
  const { data } = said;
  try {
    if (data.do === "comment") await comment(services, campaign, { reviewer }, data);
    else if (data.do === "resolve") {
      const at = data.resolved ? services.clock.now() : null;
      await resolveComment(services.database.sql, campaign.id, data.comment, at);
    } else {
      const email = await counted(services, campaign);
      if (!email) return refuse("This email is gone.", 404);
      const now = await reviewStateOf(services, campaign, email);
      await decideOn(services, campaign, reviewer, data, data, now);
    }
  } catch (error) {
    if (error instanceof ReviewError) return refuse(error.message, 409);
    throw error;
  }
  return Response.json({});
}
