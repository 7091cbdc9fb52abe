/** Edits of a campaign's email: stored here, told to every follower. */
import { EditError, envelopeSchema } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { getCampaign } from "#server/store/campaigns.ts";
import { appendEdits, editsSince, StaleEditError } from "#server/store/documents.ts";
import { liftsHolds } from "#server/store/team.ts";
import type { EditsAnswer } from "../compose/wire.ts";
import { at, campaignOf, jsonOf } from "../request.ts";
import type { Route } from "./+types/api.edits.ts";

const requestSchema = envelopeSchema.refine(
  ({ changes }) => changes.length > 0 && changes.length <= LIMITS.editsPerRequest,
);

/** The edits since a sequence number, for a tab that was away. */
export async function loader({ request, params, context }: Route.LoaderArgs) {
  const campaign = await campaignOf(context, params.campaign);
  const since = Number(new URL(request.url).searchParams.get("since")) || 0;
  return Response.json(await editsSince(at(context).sql, campaign.documentId, since));
}

export async function action({ request, params, context }: Route.ActionArgs): Promise<Response> {
  const { services, now, member } = at(context);
  const { database, followers } = services;
  const campaign = await getCampaign(database.sql, params.campaign);
  const answer = (status: number, body: EditsAnswer) => Response.json(body, { status });
  if (!campaign) {
    const message = "This campaign has been deleted: nothing in it can be changed any more.";
    return answer(404, { edits: [], seq: 0, problem: "refused", message });
  }
  const { documentId, state } = campaign;
  if (state === "sending" || state === "sent") {
    const message = "It is being sent, or has been sent: it cannot be changed any more.";
    return answer(409, { edits: [], seq: 0, problem: "fixed", message });
  }
  try {
    const parsed = requestSchema.safeParse(await jsonOf(request, LIMITS.editRequest));
    if (!parsed.success) {
      throw new EditError("invalid", "This change is too large, or could not be read.");
    }
    const author = { member: member.id, at: now, held: !liftsHolds(member) };
    const { edits, seq } = await database.tx((sql) =>
      appendEdits(sql, documentId, parsed.data, author),
    );
    followers.tell(documentId, edits);
    return answer(200, { edits, seq, problem: null, message: null });
  } catch (error) {
    if (!(error instanceof EditError)) throw error;
    const problem = error instanceof StaleEditError ? "stale" : "refused";
    return answer(409, { edits: [], seq: 0, problem, message: error.message });
  }
}
