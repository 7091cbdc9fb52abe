/** What the blocks of an email that choose items show a reader, and why; for the sheets and the settings. */
import { z } from "zod";
import { idSchema } from "#core/document/index.ts";
import { choiceSchema } from "#core/items/index.ts";
import { LIMITS } from "#core/limits.ts";
import { chosenAnswer } from "#server/campaigns/chosen.ts";
import { at, campaignOf, jsonOf } from "../request.ts";
import type { Route } from "./+types/api.chosen.ts";

const schema = z.object({
  choices: z
    .array(z.object({ node: idSchema, kind: z.string().max(40), choice: choiceSchema }))
    .max(LIMITS.choicesPerEmail),
  contact: z.number().int().positive().nullable(),
  /** The block whose choices are counted over all readers; null for none. */
  spread: idSchema.nullable().default(null),
});

export async function action({ request, params, context }: Route.ActionArgs) {
  const asked = schema.safeParse(await jsonOf(request));
  if (!asked.success) return Response.json({ problem: "Not choices." }, { status: 400 });
  const { services } = at(context);
  const campaign = await campaignOf(context, params.campaign);
  return Response.json(await chosenAnswer(services, campaign, asked.data));
}
