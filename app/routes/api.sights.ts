/** What contacts see of a campaign's email in a family of mail programs; and that somebody has looked at it. */
import { z } from "zod";
import { familyOf } from "#core/clients/index.ts";
import { LIMITS } from "#core/limits.ts";
import { sightsOf } from "#server/campaigns/sights.ts";
import { markLooked, unmarkLooked } from "#server/store/looked.ts";
import { at, campaignOf, jsonOf } from "../request.ts";
import type { Route } from "./+types/api.sights.ts";

const askedSchema = z.object({
  contacts: z
    .string()
    .regex(/^\d{1,15}(,\d{1,15})*$/)
    .transform((list) => [...new Set(list.split(",").map(Number))])
    .pipe(z.array(z.number()).max(LIMITS.sightsAtOnce)),
  as: z.string().max(40).default("sent"),
  marks: z.literal("1").optional(),
});

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const asked = askedSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!asked.success) return Response.json({ problem: "Not contacts." }, { status: 400 });
  const campaign = await campaignOf(context, params.campaign);
  const { contacts, as, marks } = asked.data;
  const { services } = at(context);
  return Response.json(
    await sightsOf(services, campaign, contacts, familyOf(as), { marks: marks !== undefined }),
  );
}

const lookedSchema = z.object({
  states: z.array(z.string().regex(/^[\w-]{32}$/)).max(LIMITS.sightsAtOnce),
  looked: z.boolean(),
});

export async function action({ request, params, context }: Route.ActionArgs) {
  const told = lookedSchema.safeParse(await jsonOf(request));
  if (!told.success) return Response.json({ problem: "Not versions." }, { status: 400 });
  const campaign = await campaignOf(context, params.campaign);
  const { sql, member, now } = at(context);
  const { states, looked } = told.data;
  if (looked) await markLooked(sql, campaign.id, states, member.id, now);
  else await unmarkLooked(sql, campaign.id, states);
  return Response.json({});
}
