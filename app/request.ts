/** What loaders and actions begin with. */

import { data, type RouterContextProvider } from "react-router";
import { parseJson } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import { begunContext, memberContext, servicesContext } from "#server/http/context.ts";
import { type Campaign, getCampaign } from "#server/store/campaigns.ts";
import { getSettings } from "#server/store/settings.ts";
import { matching } from "./ui/matches.ts";

type Context = Readonly<RouterContextProvider>;

/** The services, the database's `sql`, the time, and the person signed in. */
export function at(context: Context) {
  const services = context.get(servicesContext);
  return {
    services,
    sql: services.database.sql,
    now: services.clock.now(),
    member: context.get(memberContext),
  };
}

const asked = new WeakMap<Context, Map<string, Promise<unknown>>>();

/** Asks once for all loaders of a request what several of them need. */
export function once<T>(context: Context, what: string, ask: () => Promise<T>): Promise<T> {
  const known = asked.get(context) ?? new Map<string, Promise<unknown>>();
  asked.set(context, known);
  const found = known.get(what) ?? ask();
  known.set(what, found);
  return found as Promise<T>;
}

/**
 * Does what a page does not wait for, once that has begun to go out: for loaders of pages. Its statements let those of
 * others go first.
 */
export function late<T>(context: Context, work: () => Promise<T>): Promise<T> {
  const { database } = at(context).services;
  const result = context.get(begunContext).going.then(() => database.last(work));
  // The page hears of a failure; until the page is there, nobody else does.
  result.catch(() => {});
  return result;
}

/** The campaign an address names; a page with a way back where there is none. */
export async function campaignOf(context: Context, id: string): Promise<Campaign> {
  const campaign = await getCampaign(at(context).sql, id);
  if (!campaign) throw data("This campaign is gone.", { status: 404 });
  return campaign;
}

export const zoneOf = async (context: Context): Promise<string> =>
  (await getSettings(at(context).sql)).sender.zone;

/** A page number from an address: 1 where there is none or it makes no sense. */
export function pageNumber(url: URL): number {
  const page = Number(url.searchParams.get("page"));
  return Number.isInteger(page) && page > 0 && page < 1_000_000 ? page : 1;
}

/** Which page of `total` entries an address asks for, of those there are; and the entry it begins with. */
export function paged(url: URL, total: number, size: number) {
  const pages = Math.max(1, Math.ceil(total / size));
  const page = Math.min(pageNumber(url), pages);
  return { page, pages, from: (page - 1) * size };
}

/** What is searched in a list, as an address says it. */
export const searchIn = (url: URL): string =>
  (url.searchParams.get("search") ?? "").slice(0, LIMITS.searchLength);

/** A page of things that are known anyway, those whose names fit what is searched. */
export function listed<T extends { readonly name: string }>(
  url: URL,
  all: readonly T[],
  size: number,
) {
  const search = searchIn(url);
  const found = matching(all, search, ({ name }) => ({ label: name }));
  const { page, pages, from } = paged(url, found.length, size);
  return { search, page, pages, total: all.length, shown: found.slice(from, from + size) };
}

/** The JSON of a request, to be checked by a schema; undefined where it is none or larger than may be sent. */
export async function jsonOf(request: Request, most: number = LIMITS.editBytes): Promise<unknown> {
  const text = await request.text();
  return text.length > most ? undefined : parseJson(text);
}
