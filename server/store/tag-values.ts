/** What merge tags of contacts say, read in one statement: own fields, and those of records pointed to. */
import type { ValueCount } from "#core/checks/index.ts";
import type { Field, Fields } from "#core/fields/index.ts";
import type { Json } from "#core/json.ts";
import { LIMITS } from "#core/limits.ts";
import {
  constantSql,
  fragment,
  identifier,
  joinSql,
  type Path,
  pathOf,
  type Sql,
  type World,
} from "#core/rules/index.ts";
import type { Sql as Db } from "../db/database.ts";
import { columnsOf, jsonObject } from "./columns.ts";
import { tableSql } from "./fields.ts";
import { joined, overContacts, summedLists } from "./spans.ts";

/** A value as words or a number, as tags write it. */
function plain(field: Field, alias: string): Sql {
  const column = identifier(alias, columnsOf(field)[0]!.name);
  switch (field.type) {
    case "yesNo":
      return fragment`case when ${column} then ${YES} when not ${column} then ${NO} end`;
    case "choices":
      return fragment`array_to_string(${column}, ${COMMA})`;
    case "place":
      return fragment`nullif(${column} ->> ${NAME}, ${EMPTY})`;
    case "record":
      return fragment`(select n.name from ${tableSql(field.table ?? "")} n where n.id = ${column})`;
    default:
      return column;
  }
}
const YES = constantSql("'yes'");
const NO = constantSql("'no'");
const COMMA = constantSql("', '");
const NAME = constantSql("'name'");
const EMPTY = constantSql("''");

/** The scalar value at the end of a path, from the contact named by the alias. */
function valueAt({ field, steps }: Path, alias: string): Sql {
  const from = (i: number, outer: string): Sql => {
    const step = steps[i];
    if (step) {
      const inner = `t${i + 1}`;
      return fragment`(select ${from(i + 1, inner)} from ${tableSql(step.table)} ${identifier(inner)}
        where ${identifier(inner, "id")} = ${identifier(outer, columnsOf(step.field)[0]!.name)})`;
    }
    if (steps.length === 0 && ["email", "added"].includes(field.id)) {
      return identifier(outer, field.id);
    }
    if (steps.length === 0 && field.id === "standing") return constantSql("null");
    if (steps.length > 0 && field.id === "name") return identifier(outer, "name");
    return plain(field, outer);
  };
  return from(0, alias);
}

type Schema = Pick<World, "fields" | "tables">;

/** The value of a tag (`contact:…`) for the contact named by the alias; null where no field is called so. */
export function tagValueSql(ref: string, schema: Schema, alias: string): Sql | null {
  const path = ref.startsWith("contact:") ? pathOf(ref.slice(8), schema) : null;
  return path && valueAt(path, alias);
}

/** The values of these tags (`contact:…`) as one jsonb object, without those that are missing. */
export function tagValuesSql(refs: readonly string[], schema: Schema, alias: string): Sql {
  const pairs = refs.flatMap((ref) => {
    const value = tagValueSql(ref, schema, alias);
    return value ? [[ref, value] as const] : [];
  });
  return jsonObject(pairs);
}

/** Every field there is a way to, with the way: what can be put in as a tag or asked for in a rule. */
export function allPaths(schema: Schema): { path: string; field: Field; label: string }[] {
  const found: { path: string; field: Field; label: string }[] = [];
  const visit = (fields: Iterable<Field>, before: string, label: string, steps: number) => {
    for (const field of fields) {
      const path = `${before}${field.id}`;
      const words = label ? `${label} › ${field.label}` : field.label;
      found.push({ path, field, label: words });
      const table = field.type === "record" ? schema.tables.get(field.table ?? "") : undefined;
      if (table && steps < LIMITS.recordSteps) {
        visit(table.fields.values(), `${path}.`, words, steps + 1);
      }
    }
  };
  visit(schema.fields.values(), "", "", 0);
  return found;
}

/** The same as fields by their paths, called by the whole way: what tags name. */
export const tagFields = (schema: Schema): Fields =>
  new Map(allPaths(schema).map(({ path, field, label }) => [path, { ...field, id: path, label }]));

export interface TagShare {
  readonly ref: string;
  /** How many have a value. */
  readonly have: number;
  readonly examples: readonly string[];
}

/** What values those within `among` (a condition on a contact `c`) have for a tag (`contact:…`), and how many have each. */
export async function valueCounts(
  sql: Db,
  schema: Schema,
  ref: string,
  among: Sql,
): Promise<ValueCount[]> {
  const path = pathOf(ref.slice(ref.indexOf(":") + 1), schema);
  if (!path) return [];
  const rows = await overContacts(
    sql,
    (within) => sql<{ value: Json | null; people: number }>`
      select ${valueAt(path, "c")} as value, count(*)::int as people
      from contacts c where ${within} and ${among} group by 1`,
  );
  return joined(
    rows,
    ({ value }) => JSON.stringify(value),
    (sum, { people }) => ({ ...sum, people: sum.people + people }),
  );
}

/** How many examples of a value are shown, and among how many people they are looked for. */
const EXAMPLES = 3;
const SAMPLE = 200;

/**
 * Of every tag of contacts: how many of those within `among` (a condition on a contact `c`) have a value, and
 * a few values; counted in one pass.
 */
export async function tagShares(
  sql: Db,
  schema: Schema,
  among: Sql,
): Promise<{ of: number; tags: TagShare[] }> {
  const paths = allPaths(schema).flatMap(({ path }) => pathOf(path, schema) ?? []);
  const refs = allPaths(schema).map(({ path }) => `contact:${path}`);
  const values = paths.map((path) => valueAt(path, "c"));
  const counts = values.map((value) => fragment`count(${value})::int`);
  const rows = await overContacts(
    sql,
    (within) => sql<{ counts: number[] }>`
      select array[count(*)::int, ${joinSql(counts, ", ")}] as counts
      from contacts c where ${within} and ${among}`,
  );
  const [of = 0, ...have] = summedLists(rows.map(({ counts: some }) => some));
  const sampled = await sql<{ values: Record<string, unknown> }>`
    select ${tagValuesSql(refs, schema, "c")} as values from contacts c where ${among}
    order by c.id limit ${SAMPLE}`;
  const examples = (ref: string) => {
    const found = new Set(
      sampled.flatMap(({ values: known }) => {
        const value = known[ref];
        return value === undefined || value === null ? [] : String(value);
      }),
    );
    return [...found].slice(0, EXAMPLES);
  };
  return {
    of,
    tags: refs.map((ref, i) => ({ ref, have: have[i]!, examples: examples(ref) })),
  };
}
