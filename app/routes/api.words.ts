/** Words of the brand's own, which no dictionary has. */
import { z } from "zod";
import { at, jsonOf } from "../request.ts";
import { addOwnWord } from "../settings/save.ts";
import { wordSchema } from "../settings/schemas.ts";
import type { Route } from "./+types/api.words.ts";

const schema = z.object({ word: wordSchema });

export async function action({ request, context }: Route.ActionArgs) {
  const asked = schema.safeParse(await jsonOf(request));
  if (!asked.success) return Response.json({ problem: "This is not a word." }, { status: 400 });
  const problem = await addOwnWord(at(context).sql, asked.data.word);
  return problem ? Response.json({ problem }, { status: 409 }) : Response.json({});
}
