/** Words of the brand's own, which no dictionary has. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { addWord, getSettings } from "#server/store/settings.ts";
import { at, jsonOf } from "../request.ts";
import type { Route } from "./+types/api.words.ts";

const schema = z.object({ word: z.string().regex(/^\p{L}[\p{L}\p{M}’'-]{1,79}$/u) });

export async function action({ request, context }: Route.ActionArgs) {
  const asked = schema.safeParse(await jsonOf(request));
  if (!asked.success) return Response.json({ problem: "This is not a word." }, { status: 400 });
  const { sql } = at(context);
  if ((await getSettings(sql)).words.length >= LIMITS.ownWords) {
    const problem = `There are ${LIMITS.ownWords} words already.`;
    return Response.json({ problem }, { status: 409 });
  }
  await addWord(sql, asked.data.word.toLowerCase());
  return Response.json({});
}
