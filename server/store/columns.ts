/** Values of fields in columns: `f_ID` as kept, `x_ID` what is compared. Names come of checked field ids alone. */
import {
  checkValues,
  FIELD_ID,
  type Field,
  type FieldKind,
  type Fields,
  kindOf,
  type Values,
} from "#core/fields/index.ts";
import type { Json } from "#core/json.ts";
import { constantSql, fragment, identifier, joinSql, type Sql } from "#core/rules/index.ts";

type ColumnType = FieldKind["column"] | NonNullable<FieldKind["key"]>["column"];
export interface Column {
  readonly name: string;
  readonly type: ColumnType;
}

/** The columns of a field. Throws where its id could be anything but a name. */
export function columnsOf(field: Pick<Field, "id" | "type">): Column[] {
  if (!FIELD_ID.test(field.id)) throw new Error(`Not a field id: ${field.id}`);
  const kind = kindOf(field);
  const kept = { name: `f_${field.id}`, type: kind.column };
  return kind.key ? [kept, { name: `x_${field.id}`, type: kind.key.column }] : [kept];
}
const allColumns = (fields: Fields): Column[] => [...fields.values()].flatMap(columnsOf);

/** The database's types, as values of fields are kept and compared. */
const TYPES: Record<ColumnType, Sql> = {
  text: constantSql("text"),
  "text[]": constantSql("text[]"),
  float8: constantSql("float8"),
  "float8[]": constantSql("float8[]"),
  boolean: constantSql("boolean"),
  jsonb: constantSql("jsonb"),
  bigint: constantSql("bigint"),
};
const COLLATED = constantSql(' collate "C"');
const NOTHING = constantSql("");

/** A column for `create` and `alter table`. Texts compare by code point, as in JavaScript. */
export const definition = ({ name, type }: Column): Sql =>
  fragment`${identifier(name)} ${TYPES[type]}${type.startsWith("text") ? COLLATED : NOTHING}`;

/** Each with a comma before it: they follow others. */
const following = (parts: readonly Sql[]): Sql =>
  joinSql(
    parts.map((part) => fragment`, ${part}`),
    "",
  );

/** Names of the columns, each with a comma before it. */
export const columnNames = (fields: Fields): Sql =>
  following(allColumns(fields).map(({ name }) => identifier(name)));
/** The same with an alias before each. */
export const columnsFrom = (fields: Fields, alias: string): Sql =>
  following(allColumns(fields).map(({ name }) => identifier(alias, name)));
/** A name with its type, for `jsonb_to_record`. */
export const typed = ({ name, type }: Column): Sql => fragment`${identifier(name)} ${TYPES[type]}`;
/** Names with types, each with a comma before it. */
export const columnTypes = (fields: Fields): Sql => following(allColumns(fields).map(typed));

/** Checked values as a row for these columns. */
export function rowOf(values: Values, fields: Fields): Record<string, unknown> {
  const row: Record<string, unknown> = {};
  for (const [id, value] of Object.entries(checkValues(values, fields))) {
    const kind = kindOf(fields.get(id)!);
    row[`f_${id}`] = value;
    if (kind.key) row[`x_${id}`] = kind.key.of(value);
  }
  return row;
}

/** The columns of a field with a checked value in them, as SQL. */
export function columnValues(field: Field, value: Json): Sql[] {
  const kind = kindOf(field);
  const checked = value === null ? null : kind.check(value, field);
  const kept = kind.column === "jsonb" && checked !== null ? JSON.stringify(checked) : checked;
  const values = [kept, checked === null ? null : kind.key?.of(checked)];
  return columnsOf(field).map(({ type }, i) => fragment`${values[i] ?? null}::${TYPES[type]}`);
}

/** What sets the columns of these values (null for none), for an `update`; null where there is nothing to set. */
export function assignmentsOf(values: Values, fields: Fields): Sql | null {
  const sets = Object.entries(values).flatMap(([id, value]) => {
    const field = fields.get(id);
    if (!field || value === undefined) return [];
    const columns = columnValues(field, value);
    return columnsOf(field).map(({ name }, i) => fragment`${identifier(name)} = ${columns[i]!}`);
  });
  return sets.length ? joinSql(sets, ", ") : null;
}

/** How many key and value pairs one call of `jsonb_build_object` takes. */
const PAIRS = 50;

/** The values of a row as one jsonb object by field id, without those that are missing. */
export const valuesSql = (fields: Fields, alias: string): Sql =>
  jsonObject(
    [...fields.values()].map((field) => [field.id, identifier(alias, columnsOf(field)[0]!.name)]),
  );

/** One jsonb object of keys and values, without those that are null. */
export function jsonObject(pairs: readonly (readonly [key: string, value: Sql])[]): Sql {
  const calls: Sql[] = [];
  for (let i = 0; i < pairs.length; i += PAIRS) {
    const some = pairs.slice(i, i + PAIRS).map(([key, value]) => fragment`${key}::text, ${value}`);
    calls.push(fragment`jsonb_build_object(${joinSql(some, ", ")})`);
  }
  if (calls.length === 0) return constantSql("'{}'::jsonb");
  return fragment`jsonb_strip_nulls(${joinSql(calls, " || ")})`;
}

/** All texts of a row that are compared, as one; for a search over everything. */
export function searchSql(fields: Fields, alias: string, first: string): Sql {
  const texts = [...fields.values()].flatMap((field) =>
    kindOf(field).key?.column === "text" ? [identifier(alias, `x_${field.id}`)] : [],
  );
  return fragment`concat_ws(${"\u001f"}::text, ${joinSql([identifier(alias, first), ...texts], ", ")})`;
}
