/** Who sees what of a campaign's email: its readers (or everybody) by the conditions that hold for them. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { knownReaders, whoSeesAtOnce, whoSeesOf, worldFor } from "#server/audience/readers.ts";
import { NOBODY } from "#server/store/audience.ts";
import { at, campaignOf, jsonOf } from "../request.ts";
import type { Route } from "./+types/api.who-sees.ts";

const schema = z.object({
  conditions: z.array(z.string().max(LIMITS.ruleText)).max(LIMITS.conditions),
  contact: z.number().int().positive().nullable(),
  /** Whether readers are counted; else it is only said what holds for the contact. */
  counts: z.boolean().default(true),
});

export async function action({ request, params, context }: Route.ActionArgs) {
  const asked = schema.safeParse(await jsonOf(request));
  if (!asked.success) return Response.json({ problem: "Not conditions." }, { status: 400 });
  const { services } = at(context);
  const campaign = params.campaign
    ? await campaignOf(context, params.campaign)
    : { audience: NOBODY, topic: null };
  const { conditions, contact, counts } = asked.data;
  const world = await worldFor(services, conditions, campaign.audience);
  if (!counts) return Response.json(await whoSeesAtOnce(services, conditions, contact, world));
  const readers = await knownReaders(services, campaign, conditions, world);
  return Response.json(await whoSeesOf(services, readers, contact, world));
}
