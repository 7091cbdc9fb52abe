/** A rule while it is built: in words, how many it reaches, whom it catches and whom it just misses. */

import { LIMITS } from "#core/limits.ts";
import { describe, isGroup, ruleProblem, ruleSchema } from "#core/rules/index.ts";
import { worldOf } from "#server/audience/world.ts";
import { rulesOfAudience } from "#server/store/audience.ts";
import { caughtBy, countReach, missedBy } from "#server/store/reach.ts";
import { readersSql } from "#server/store/readers.ts";
import { contactName } from "../people/names.ts";
import { at, campaignOf, jsonOf } from "../request.ts";
import type { Route } from "./+types/api.reach.ts";

export async function action({ request, context }: Route.ActionArgs) {
  const rule = ruleSchema.safeParse(await jsonOf(request));
  if (!rule.success) {
    return Response.json(
      { problem: rule.error.issues[0]?.message ?? "Not a rule." },
      { status: 400 },
    );
  }
  const { sql, services } = at(context);
  const id = new URL(request.url).searchParams.get("campaign");
  const campaign = id ? await campaignOf(context, id) : null;
  const rules = campaign ? rulesOfAudience(campaign.audience) : [];
  const world = await worldOf(sql, services.clock, [rule.data, ...rules]);
  const among = campaign ? readersSql(campaign, world) : undefined;
  const [reach, caught, missed] = await Promise.all([
    countReach(sql, rule.data, world, among),
    caughtBy(sql, rule.data, world, LIMITS.reachPeople),
    missedBy(sql, rule.data, world, LIMITS.reachPeople),
  ]);
  const parts = isGroup(rule.data) ? rule.data.rules : [rule.data];
  const short = ({ id, email, values, heldBack }: (typeof caught)[number]) => ({
    id,
    email,
    name: contactName({ email, values }),
    heldBack,
  });
  return Response.json({
    words: describe(rule.data, world),
    problem: ruleProblem(rule.data, world),
    reach,
    caught: caught.map(short),
    missed: missed.map((contact) => ({
      ...short(contact),
      because: contact.parts.map((i) => describe(parts[i]!, world)),
    })),
  });
}
