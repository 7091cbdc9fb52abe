/** What was done to a campaign's email, the states it had, and the moments that are kept. */
import { z } from "zod";
import { EditError } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { earlierEdits, loadDocument } from "#server/store/documents.ts";
import { listSteps, stateAt } from "#server/store/history.ts";
import { countMoments, dropMoment, keepMoment, listMoments } from "#server/store/moments.ts";
import type { EarlierAnswer, HistoryAnswer, StateAnswer } from "../compose/wire.ts";
import { at, campaignOf, jsonOf } from "../request.ts";
import type { Route } from "./+types/api.history.ts";

const refuse = (message: string, status = 400) => Response.json({ message }, { status });

/** The steps and the moments; with `mine`, what the person can take back; with `at`, the email as it was after that edit, or as it is (`latest`). */
export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { documentId } = await campaignOf(context, params.campaign);
  const { sql, member } = at(context);
  const query = new URL(request.url).searchParams;
  if (query.has("mine")) {
    const earlier = await earlierEdits(sql, documentId, member.id);
    return Response.json(earlier satisfies EarlierAnswer);
  }
  const asked = query.get("at");
  if (asked === null) {
    const [steps, moments] = [await listSteps(sql, documentId), await listMoments(sql, documentId)];
    return Response.json({ steps, moments } satisfies HistoryAnswer);
  }
  if (asked === "latest") {
    const { seq, doc } = (await loadDocument(sql, documentId))!;
    return Response.json({ seq, doc } satisfies StateAnswer);
  }
  const seq = z.coerce.number().int().min(0).safeParse(asked);
  if (!seq.success) return refuse("There is no such state.");
  try {
    const doc = await stateAt(sql, documentId, seq.data);
    return Response.json({ seq: seq.data, doc } satisfies StateAnswer);
  } catch (error) {
    if (error instanceof EditError) return refuse(error.message, 404);
    throw error;
  }
}

const requestSchema = z.discriminatedUnion("do", [
  z.object({
    do: z.literal("keep"),
    name: z
      .string()
      .trim()
      .min(1, "Give it a name.")
      .max(LIMITS.nameLength, "This name is too long."),
  }),
  z.object({ do: z.literal("drop"), id: z.string().max(40) }),
]);

export async function action({ request, params, context }: Route.ActionArgs) {
  const { sql, now, member } = at(context);
  const { documentId } = await campaignOf(context, params.campaign);
  const parsed = requestSchema.safeParse(await jsonOf(request));
  if (!parsed.success) return refuse(parsed.error.issues[0]?.message ?? "This could not be read.");
  const asked = parsed.data;
  if (asked.do === "drop") await dropMoment(sql, documentId, asked.id);
  else {
    if ((await countMoments(sql, documentId)) >= LIMITS.moments) {
      return refuse(`At most ${LIMITS.moments} moments are kept; take one out first.`);
    }
    const { seq } = (await loadDocument(sql, documentId))!;
    const { name } = asked;
    await keepMoment(sql, { documentId, seq, name, automatic: false, member: member.id, at: now });
  }
  return Response.json({
    steps: [],
    moments: await listMoments(sql, documentId),
  } satisfies HistoryAnswer);
}
