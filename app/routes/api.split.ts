/** The A/B test of a campaign: kept as it is planned, and content given to its variants. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { splitPlanSchema } from "#core/splits/index.ts";
import { ScheduleError } from "#server/campaigns/schedule-error.ts";
import { giveContent, planSplit } from "#server/campaigns/splitting.ts";
import { at, campaignOf, jsonOf } from "../request.ts";
import type { Route } from "./+types/api.split.ts";

const schema = z.discriminatedUnion("do", [
  z.object({ do: z.literal("keep"), plan: splitPlanSchema, was: splitPlanSchema }),
  z.object({
    do: z.literal("content"),
    plan: splitPlanSchema,
    was: splitPlanSchema,
    /** From 1, which is B. */
    variant: z
      .number()
      .int()
      .min(1)
      .max(LIMITS.variants - 1),
  }),
]);

export async function action({ request, params, context }: Route.ActionArgs) {
  const asked = schema.safeParse(await jsonOf(request));
  if (!asked.success) {
    return Response.json({ problem: asked.error.issues[0]!.message }, { status: 400 });
  }
  const { services } = at(context);
  try {
    const { plan, was } = asked.data;
    await planSplit(services, await campaignOf(context, params.campaign), plan, was);
    if (asked.data.do === "keep") return Response.json({});
    const campaign = await campaignOf(context, params.campaign);
    return Response.json({ content: await giveContent(services, campaign, asked.data.variant) });
  } catch (error) {
    if (!(error instanceof ScheduleError)) throw error;
    return Response.json({ problem: error.message }, { status: 409 });
  }
}
