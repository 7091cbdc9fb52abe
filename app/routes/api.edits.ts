/** Edits of a campaign's email: stored here, told to every follower. */
import { z } from "zod";
import { EditError, envelopeSchema } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { appendEdits, editsSince, loadDocument, StaleEditError } from "#server/store/documents.ts";
import { step, undoState } from "#server/store/undo.ts";
import type { EditsAnswer } from "../compose/wire.ts";
import { at, campaignOf, jsonOf } from "../request.ts";
import type { Route } from "./+types/api.edits.ts";

const requestSchema = z.discriminatedUnion("do", [
  z.object({
    do: z.literal("edits"),
    envelopes: z.array(envelopeSchema).min(1).max(LIMITS.editsPerRequest),
  }),
  z.object({ do: z.enum(["undo", "redo"]), tab: z.string().regex(/^[A-Za-z0-9_-]{4,40}$/) }),
]);

/** The edits since a sequence number, for a tab that was away. */
export async function loader({ request, params, context }: Route.LoaderArgs) {
  const campaign = await campaignOf(context, params.campaign);
  const since = Number(new URL(request.url).searchParams.get("since")) || 0;
  return Response.json(await editsSince(at(context).sql, campaign.documentId, since));
}

export async function action({ request, params, context }: Route.ActionArgs): Promise<Response> {
  const { services, now, member } = at(context);
  const { database, followers } = services;
  const { documentId } = await campaignOf(context, params.campaign);
  const answer = async (
    status: number,
    rest: Pick<EditsAnswer, "edits" | "problem" | "message">,
  ): Promise<Response> => {
    const stored = rest.problem ? await loadDocument(database.sql, documentId) : null;
    const can = await undoState(database.sql, documentId, member.id);
    return Response.json(
      {
        ...rest,
        can,
        stored: stored && { seq: stored.seq, doc: stored.doc },
      } satisfies EditsAnswer,
      { status },
    );
  };
  try {
    const parsed = requestSchema.safeParse(await jsonOf(request));
    if (!parsed.success) {
      throw new EditError("invalid", "This change is too large, or could not be read.");
    }
    const asked = parsed.data;
    const edits = await database.tx(async (sql) => {
      if (asked.do === "edits") {
        return appendEdits(sql, documentId, asked.envelopes, { member: member.id, at: now });
      }
      const author = { member: member.id, tab: asked.tab, at: now };
      return step(sql, documentId, asked.do, author);
    });
    followers.tell(documentId, edits);
    return await answer(200, { edits, problem: null, message: null });
  } catch (error) {
    if (!(error instanceof EditError)) throw error;
    const problem = error instanceof StaleEditError ? "stale" : "refused";
    return answer(409, { edits: [], problem, message: error.message });
  }
}
