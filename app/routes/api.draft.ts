/** How far the draft of a scheduled campaign is from what goes out, and bringing the two together. */
import { z } from "zod";
import { changeSchema, EditError } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { discardDraft, draftState, replaceFrozen } from "#server/draft.ts";
import { newId } from "#server/ids.ts";
import { ScheduleError } from "#server/scheduling.ts";
import { createCampaign } from "#server/store/campaigns.ts";
import { appendEdits, loadDocument } from "#server/store/documents.ts";
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
  const { services, sql, now, member } = at(context);
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
      const stored = (await loadDocument(sql, campaign.documentId))!;
      const apart = await services.database.tx(async (tx) => {
        const name = `${campaign.name}, what was left`.slice(0, LIMITS.nameLength);
        const { audience, topic } = campaign;
        const id = await createCampaign(tx, name, stored.doc, now, audience, topic);
        const made = (
          await tx<{ document: string }>`
          select document_id as document from campaigns where id = ${id}`
        )[0]!;
        // The same changes under names of their own: they are stored nowhere else.
        const changes = asked.changes.map((change) => ({ ...change, id: newId() }));
        const author = { member: member.id, at: now };
        await appendEdits(tx, made.document, { tab: "apart", base: 0, changes }, author);
        return id;
      });
      return answer(200, null, apart);
    }
  } catch (error) {
    if (!(error instanceof ScheduleError || error instanceof EditError)) throw error;
    return answer(409, error.message);
  }
  return answer(200, null);
}
