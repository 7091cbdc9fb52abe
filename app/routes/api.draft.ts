/** How far the draft of a scheduled campaign is from what goes out, and bringing the two together. */
import { z } from "zod";
import { changeSchema, EditError } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { discardDraft, draftState, keepApart, replaceFrozen } from "#server/campaigns/draft.ts";
import { ScheduleError } from "#server/campaigns/scheduling.ts";
import type { DraftAnswer } from "../draft/wire.ts";
import { at, campaignOf, jsonOf } from "../request.ts";
import type { Route } from "./+types/api.draft.ts";

export async function loader({ params, context }: Route.LoaderArgs) {
  const campaign = await campaignOf(context, params.campaign);
  const draft = await draftState(at(context).sql, campaign);
  return Response.json({ draft, message: null, campaign: null } satisfies DraftAnswer);
}

const requestSchema = z.discriminatedUnion("do", [
  z.object({ do: z.literal("replace") }),
  z.object({ do: z.literal("discard") }),
  /** What was still to be saved when the sending began, as a campaign of its own. */
  z.object({
    do: z.literal("apart"),
    changes: z.array(changeSchema).min(1).max(LIMITS.undoEdits),
  }),
]);

export async function action({ request, params, context }: Route.ActionArgs) {
  const { services, now, member } = at(context);
  const campaign = await campaignOf(context, params.campaign);
  const parsed = requestSchema.safeParse(await jsonOf(request, LIMITS.editRequest));
  const answer = (status: number, message: string | null, apart: string | null = null) =>
    Response.json({ draft: null, message, campaign: apart } satisfies DraftAnswer, { status });
  if (!parsed.success) return answer(400, "This could not be read.");
  const asked = parsed.data;
  try {
    if (asked.do === "replace") await replaceFrozen(services, campaign, member.id);
    else if (asked.do === "discard") {
      await discardDraft(services, campaign, { member: member.id, at: now });
    } else {
      const apart = await keepApart(services, campaign, asked.changes, {
        member: member.id,
        at: now,
      });
      return answer(200, null, apart);
    }
  } catch (error) {
    if (!(error instanceof ScheduleError || error instanceof EditError)) throw error;
    return answer(409, error.message);
  }
  return answer(200, null);
}
