/** Values of fields in columns: `f_ID` as kept, `x_ID` what is compared. Names come of checked field ids alone. */
import {
  checkValues,
  FIELD_ID,
  type Field,
  type Fields,
  kindOf,
  type Values,
} from "#core/fields/index.ts";
import type { Json } from "#core/json.ts";
import { constantSql, fragment, joinSql, type Sql } from "#core/rules/index.ts";

interface Column {
  readonly name: string;
  readonly type: string;
}

/** The columns of a field. Throws where its id could be anything but a name. */
export function columnsOf(field: Pick<Field, "id" | "type">): Column[] {
  if (!FIELD_ID.test(field.id)) throw new Error(`Not a field id: ${field.id}`);
  const kind = kindOf(field);
  const kept = { name: `f_${field.id}`, type: kind.column };
  return kind.key ? [kept, { name: `x_${field.id}`, type: kind.key.column }] : [kept];
}
const allColumns = (fields: Fields): Column[] => [...fields.values()].flatMap(columnsOf);

/** Texts compare by code point, as in JavaScript. */
export const definition = ({ name, type }: Column): string =>
  `${name} ${type}${/^text/.test(type) ? ' collate "C"' : ""}`;

/** Names of the columns, each with a comma before it: they follow others. */
export const columnNames = (fields: Fields): Sql =>
  constantSql(
    allColumns(fields)
      .map(({ name }) => `, ${name}`)
      .join(""),
  );
/** The same with an alias before each. */
export const columnsFrom = (fields: Fields, alias: string): Sql =>
  constantSql(
    allColumns(fields)
      .map(({ name }) => `, ${alias}.${name}`)
      .join(""),
  );
/** Names with types, for `jsonb_to_recordset`. */
export const columnTypes = (fields: Fields): Sql =>
  constantSql(
    allColumns(fields)
      .map(({ name, type }) => `, ${name} ${type}`)
      .join(""),
  );

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
  return columnsOf(field).map(
    ({ type }, i) => fragment`${values[i] ?? null}${constantSql(`::${type}`)}`,
  );
}

/** What sets the columns of these values (null for none), for an `update`; null where there is nothing to set. */
export function assignmentsOf(values: Values, fields: Fields): Sql | null {
  const sets = Object.entries(values).flatMap(([id, value]) => {
    const field = fields.get(id);
    if (!field || value === undefined) return [];
    const columns = columnValues(field, value);
    return columnsOf(field).map(
      ({ name }, i) => fragment`${constantSql(`${name} = `)}${columns[i]!}`,
    );
  });
  return sets.length ? joinSql(sets, ", ") : null;
}

/** How many key and value pairs one call of `jsonb_build_object` takes. */
const PAIRS = 50;

/** The values of a row as one jsonb object by field id, without those that are missing. */
export function valuesSql(fields: Fields, alias: string): Sql {
  const pairs = [...fields.values()].map((field) => {
    columnsOf(field);
    return `'${field.id}', ${alias}.f_${field.id}`;
  });
  return jsonObject(pairs);
}

/** One jsonb object of pairs written as SQL (`'key', value`), without those that are null. From code only. */
export function jsonObject(pairs: readonly string[]): Sql {
  const calls: string[] = [];
  for (let i = 0; i < pairs.length; i += PAIRS) {
    calls.push(`jsonb_build_object(${pairs.slice(i, i + PAIRS).join(", ")})`);
  }
  return constantSql(calls.length ? `jsonb_strip_nulls(${calls.join(" || ")})` : "'{}'::jsonb");
}

/** All texts of a row that are compared, as one; for a search over everything. */
export function searchSql(fields: Fields, alias: string, first: string): Sql {
  const texts = [...fields.values()].flatMap((field) =>
    kindOf(field).key?.column === "text" ? [`${alias}.x_${field.id}`] : [],
  );
  return constantSql(`concat_ws(e'\\x1f', ${[`${alias}.${first}`, ...texts].join(", ")})`);
}
