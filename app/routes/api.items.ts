/** Items of sources for the shelf above the tray: the sources there are, and a page of the items of one. */
import { z } from "zod";
import { FIELD_ID } from "#core/fields/index.ts";
import { LIMITS } from "#core/limits.ts";
import { countEach, countItems, getSources, searchItems } from "#server/store/sources.ts";
import type { ItemPage } from "../compose/wire.ts";
import { at, zoneOf } from "../request.ts";
import { day } from "../ui/words.ts";
import type { Route } from "./+types/api.items.ts";

const querySchema = z.object({
  source: z.string().regex(FIELD_ID).optional(),
  search: z.string().max(LIMITS.searchLength).default(""),
  from: z.coerce.number().int().min(0).max(LIMITS.itemsPerSource).default(0),
});

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql, now } = at(context);
  const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!query.success) return Response.json({ message: "Ask for less." }, { status: 400 });
  const { search, from } = query.data;
  const all = await getSources(sql);
  // One that somebody has removed meanwhile is not there any more: the first is.
  const source = all.find(({ id }) => id === query.data.source) ?? all[0];
  const counts = await countEach(
    sql,
    all.map(({ id }) => id),
  );
  const zone = await zoneOf(context);
  const limit = LIMITS.itemsPerPage;
  const items = source ? await searchItems(sql, source.id, { search, from, limit }) : [];
  return Response.json({
    sources: all.map(({ id, name }) => ({ id, name, items: counts.get(id) ?? 0 })),
    source: source?.id ?? null,
    found: source ? await countItems(sql, source.id, search) : 0,
    items: items.map(({ published, ...item }) => ({ ...item, day: day(published, now, zone) })),
  } satisfies ItemPage);
}
