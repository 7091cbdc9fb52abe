/**
 * Views of the contacts table: who is in it and in what order is found once, with its first rows, and kept as
 * ids. Any page of it then costs the same, and rows do not jump away while one works on them.
 */
import type { Fields } from "#core/fields/index.ts";
import { canonical, type Json } from "#core/json.ts";
import type { World } from "#core/rules/index.ts";
import type { Sql } from "../db/database.ts";
import { newId } from "../ids.ts";
import { type Contact, getContacts } from "../store/contacts.ts";
import { countView, idsOf, type View } from "../store/views.ts";

/** How many views are kept, the latest used. */
const KEPT = 20;

export interface ContactViews {
  /** Opens a view anew and gives its token and how many people are in it. */
  open(sql: Sql, view: View, world: World): Promise<{ token: string; total: number }>;
  /** Rows of an opened view; a view that is no longer kept is opened again, against `world`. */
  rows(
    sql: Sql,
    token: string,
    view: View,
    fields: Fields,
    world: () => Promise<World>,
    from: number,
    count: number,
  ): Promise<Contact[]>;
  /** Who is in a view now: what an action works on. */
  now(sql: Sql, view: View, world: World): Promise<readonly number[]>;
}

export function createContactViews(): ContactViews {
  const kept = new Map<string, { readonly of: string; readonly ids: readonly number[] }>();
  const keyOf = (view: View) => canonical(view as unknown as Json);
  const keep = (token: string, of: string, ids: readonly number[]) => {
    kept.delete(token);
    kept.set(token, { of, ids });
    if (kept.size > KEPT) kept.delete(kept.keys().next().value!);
  };
  return {
    now: idsOf,
    async open(sql, view, world) {
      // A page outlives a restart: a token never comes twice.
      return { token: newId(), total: await countView(sql, view, world) };
    },
    async rows(sql, token, view, fields, world, from, count) {
      const before = kept.get(token);
      const of = keyOf(view);
      const all = before?.of === of ? before.ids : await idsOf(sql, view, await world());
      keep(token, of, all);
      return getContacts(sql, fields, all.slice(from, from + count));
    },
  };
}
