/** Finds things with names to choose from: by words, or by id. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { getSchema } from "#server/store/fields.ts";
import { FINDABLE, findNamed, namesOf } from "#server/store/finding.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.find.ts";

const querySchema = z.object({
  what: z.enum(FINDABLE),
  words: z.string().max(LIMITS.searchLength).default(""),
  id: z.string().max(200).optional(),
  of: z.string().max(200).default(""),
});

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const asked = Object.fromEntries(new URL(request.url).searchParams);
  const query = querySchema.safeParse({ ...asked, what: params.what });
  if (!query.success)
    return Response.json({ message: "Nothing can be found by that." }, { status: 400 });
  const { what, words, id, of } = query.data;
  if (what === "records" && !(await getSchema(sql)).tables.has(of)) {
    return Response.json({ found: [] });
  }
  const found =
    id === undefined ? await findNamed(sql, what, words, of) : await namesOf(sql, what, [id], of);
  return Response.json({ found });
}
