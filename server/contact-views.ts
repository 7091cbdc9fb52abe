/**
 * Views of the contacts table: who is in it and in what order is found once, when it is opened, and kept as
 * ids. Any page of it then costs the same, and rows do not jump away while one works on them.
 */
import { z } from "zod";
import type { Fields } from "#core/fields/index.ts";
import { canonical, type Json, parseJson } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import {
  constantSql,
  fragment,
  identifier,
  joinSql,
  pathOf,
  type Rule,
  ruleSchema,
  ruleSql,
  type World,
} from "#core/rules/index.ts";
import { first, type Sql } from "./db/database.ts";
import { newId } from "./ids.ts";
import { columnsOf } from "./store/columns.ts";
import { type Contact, getContacts, searchCondition } from "./store/contacts.ts";

export const viewSchema = z.object({
  search: z.string().max(200).default(""),
  list: z.string().max(80).default(""),
  segment: z.string().max(80).default(""),
  /** A rule written on the spot, as JSON. */
  rule: z.string().max(LIMITS.ruleText).default(""),
  sort: z.string().max(60).default("email"),
  down: z.coerce.boolean().default(false),
});
export type View = z.infer<typeof viewSchema>;

/** How many views are kept, the latest used. */
const KEPT = 20;

/** What a view can be sorted by beside its fields. */
const ORDERS = new Map([
  ["email", "email_folded"],
  ["added", "added"],
  ["standing", "held"],
]);

function orderSql({ sort, down }: View, world: World) {
  const field = pathOf(sort, world)?.field;
  const columns = field && world.fields.has(field.id) ? columnsOf(field) : [];
  const column = ORDERS.get(sort) ?? columns.at(-1)?.name ?? "email_folded";
  const way = constantSql(down ? "desc nulls last" : "asc nulls last");
  return fragment`${identifier("c", column)} ${way}, c.id`;
}

/** The rule a view was filtered by on the spot, or null. */
export function ruleOfView({ rule }: View): Rule | null {
  const read = ruleSchema.safeParse(rule && parseJson(rule));
  return read.success ? read.data : null;
}

async function idsOf(sql: Sql, view: View, world: World): Promise<number[]> {
  const conditions = [searchCondition(world.fields, view.search)];
  if (view.list) conditions.push(ruleSql({ type: "list", list: view.list, is: true }, world));
  if (view.segment) {
    conditions.push(ruleSql({ type: "segment", segment: view.segment, is: true }, world));
  }
  const rule = ruleOfView(view);
  if (rule) conditions.push(ruleSql(rule, world));
  const row = first(
    await sql<{ ids: string | null }>`select string_agg(v.id::text, ',') as ids from (
      select c.id from contacts c where ${joinSql(conditions, " and ")}
      order by ${orderSql(view, world)}) v`,
  );
  return row?.ids ? row.ids.split(",").map(Number) : [];
}

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
      const token = newId();
      const found = await idsOf(sql, view, world);
      keep(token, keyOf(view), found);
      return { token, total: found.length };
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
