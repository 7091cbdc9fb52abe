/** What rules over the items of a source can speak of, and what its items are. */
import { z } from "zod";
import { FIELD_ID } from "#core/fields/index.ts";
import type { Vocabulary } from "#server/audience/vocabulary.ts";
import { getFields } from "#server/store/fields.ts";
import { ruleFields } from "#server/store/items.ts";
import { getSources } from "#server/store/sources.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.item-fields.ts";

const querySchema = z.object({
  kind: z.string().max(40),
  source: z.string().regex(FIELD_ID).optional(),
});

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql } = at(context);
  const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!query.success) return Response.json({ message: "Not a source." }, { status: 400 });
  const { kind, source } = query.data;
  const all = await getSources(sql, kind);
  const one = all.find(({ id }) => id === source) ?? all[0];
  const fields = one ? ruleFields(await getFields(sql, one.id)) : new Map();
  return Response.json({
    only: "fields",
    fields: [...fields.values()].map(({ id, label, type, options = [] }) => ({
      ...{ path: id, label, type, options, table: null },
    })),
  } satisfies Vocabulary);
}
