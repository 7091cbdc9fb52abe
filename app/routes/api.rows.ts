/** Rows of an opened view of the contacts table. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { recordBook, writeValues } from "#server/audience/field-values.ts";
import { worldOf } from "#server/audience/world.ts";
import { getSchema } from "#server/store/fields.ts";
import { rulesOfView, viewSchema } from "#server/store/views.ts";
import { at } from "../request.ts";
import type { Route } from "./+types/api.rows.ts";

const querySchema = viewSchema.extend({
  token: z.string().max(40),
  from: z.coerce.number().int().min(0).max(100_000_000),
});

export async function loader({ request, context }: Route.LoaderArgs) {
  const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!query.success) return Response.json({ rows: [] }, { status: 400 });
  const { sql, services } = at(context);
  const { fields, tables } = await getSchema(sql);
  const { token, from, ...view } = query.data;
  const world = () => worldOf(sql, services.clock, rulesOfView(view));
  const count = LIMITS.contactRows;
  const rows = await services.views.rows(sql, token, view, fields, world, from, count);
  const book = await recordBook(sql, fields, tables);
  return Response.json({
    rows: rows.map(({ id, email, heldBack, added, values }) => ({
      id,
      email,
      heldBack,
      added,
      cells: writeValues(values, fields, book),
    })),
  });
}
