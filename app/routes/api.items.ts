/** Items of sources for the shelf above the tray: the sources there are, and a page of the items of one. */
import { z } from "zod";
import { FIELD_ID } from "#core/fields/index.ts";
import { LIMITS } from "#core/limits.ts";
import { countEach, countItems, EVER, searchItems } from "#server/store/items.ts";
import { getSources } from "#server/store/sources.ts";
import type { ItemPage } from "../compose/wire.ts";
import { itemWords } from "../library/item-words.ts";
import { at, zoneOf } from "../request.ts";
import type { Route } from "./+types/api.items.ts";

const querySchema = z.object({
  source: z.string().regex(FIELD_ID).optional(),
  kind: z.string().max(40).optional(),
  search: z.string().max(LIMITS.searchLength).default(""),
  /** Not older than so many days. */
  within: z.coerce.number().int().min(1).max(LIMITS.ruleDays).optional(),
  from: z.coerce.number().int().min(0).max(LIMITS.itemsPerCatalogue).default(0),
});

const DAY_MS = 86_400_000;

export async function loader({ request, context }: Route.LoaderArgs) {
  const { sql, now } = at(context);
  const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!query.success) return Response.json({ message: "Ask for less." }, { status: 400 });
  const { search, from, within, kind } = query.data;
  const all = await getSources(sql, kind ?? null);
  // One that somebody has removed meanwhile is not there any more: the first is.
  const source = all.find(({ id }) => id === query.data.source) ?? all[0];
  const counts = await countEach(
    sql,
    all.map(({ id }) => id),
  );
  const zone = await zoneOf(context);
  const limit = LIMITS.itemsPerPage;
  // Of events those that are to come, the next one first.
  const soonest = source?.kind === "calendar";
  const since = within ? new Date(now.getTime() - within * DAY_MS) : null;
  const between = { ...EVER, since: soonest ? now : since };
  const items = source
    ? await searchItems(sql, source.id, { search, from, limit }, between, soonest)
    : [];
  return Response.json({
    sources: all.map(({ id, name, kind }) => ({ id, name, kind, items: counts.get(id) ?? 0 })),
    source: source?.id ?? null,
    kind: source?.kind ?? null,
    found: source ? await countItems(sql, source.id, search, between) : 0,
    items: items.map(({ at: moment, ...item }) => ({
      ...item,
      about: itemWords(source!, { ...item, at: moment }, now, zone),
    })),
  } satisfies ItemPage);
}
