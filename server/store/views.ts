/** Views of the contacts table: who is in one, and in what order. */
import { z } from "zod";
import { parseJson } from "#core/json.ts";
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
import { first, type Sql } from "../db/database.ts";
import { columnsOf } from "./columns.ts";
import { searchCondition } from "./contacts.ts";

export const viewSchema = z.object({
  search: z.string().max(LIMITS.searchLength).default(""),
  list: z.string().max(80).default(""),
  segment: z.string().max(80).default(""),
  /** A rule written on the spot, as JSON. */
  rule: z.string().max(LIMITS.ruleText).default(""),
  sort: z.string().max(60).default("email"),
  down: z.coerce.boolean().default(false),
});
export type View = z.infer<typeof viewSchema>;

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

/** What a view is narrowed by, as rules: what the world it is read in has to know. */
export const rulesOfView = (view: View): Rule[] => [
  ...(view.list ? [{ type: "list", list: view.list, is: true } as const] : []),
  ...(view.segment ? [{ type: "segment", segment: view.segment, is: true } as const] : []),
  ...[ruleOfView(view)].filter((rule) => rule !== null),
];

function conditionsOf(view: View, world: World) {
  return joinSql(
    [
      searchCondition(world.fields, view.search),
      ...rulesOfView(view).map((rule) => ruleSql(rule, world)),
    ],
    " and ",
  );
}

/** How many are in a view. */
export async function countView(sql: Sql, view: View, world: World): Promise<number> {
  const row = first(
    await sql<{
      n: number;
    }>`select count(*)::int as n from contacts c where ${conditionsOf(view, world)}`,
  );
  return row!.n;
}

/** Who is in a view, in its order. */
export async function idsOf(sql: Sql, view: View, world: World): Promise<number[]> {
  const row = first(
    await sql<{ ids: string | null }>`select string_agg(v.id::text, ',') as ids from (
      select c.id from contacts c where ${conditionsOf(view, world)}
      order by ${orderSql(view, world)}) v`,
  );
  return row?.ids ? row.ids.split(",").map(Number) : [];
}
