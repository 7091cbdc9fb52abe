/**
 * Questions about everybody are asked of some contacts at a time, so that others have their turn between. What the
 * answers add up to is right as far as nobody changes in the meantime: counts to be shown, none to be sent by.
 */
import { LIMITS } from "#core/limits.ts";
import { fragment, type Span, type Sql as SqlPiece } from "#core/rules/index.ts";
import { first, type Sql } from "../db/database.ts";

/**
 * Asks of all contacts span by span and gives the rows of all answers; `ask` is given the span as a condition on a
 * contact `c`, and as what rules read (`World.span`). It is asked at least once.
 */
export async function overContacts<Row>(
  sql: Sql,
  ask: (within: SqlPiece, span: Span) => Promise<readonly Row[]>,
): Promise<Row[]> {
  const ids = first(
    await sql<{ least: number | null; most: number | null }>`
      select min(id) as least, max(id) as most from contacts`,
  );
  const rows: Row[] = [];
  let from = (ids?.least ?? 1) - 1;
  do {
    const to = from + LIMITS.contactsAtOnce;
    rows.push(...(await ask(fragment`c.id > ${from} and c.id <= ${to}`, { from, to })));
    from = to;
  } while (from < (ids?.most ?? 0));
  return rows;
}

/** Rows of one key made one: `add` puts a later row of it on an earlier one. */
export function joined<Row>(
  rows: readonly Row[],
  keyOf: (row: Row) => string,
  add: (sum: Row, row: Row) => Row,
): Row[] {
  const found = new Map<string, Row>();
  for (const row of rows) {
    const key = keyOf(row);
    const sum = found.get(key);
    found.set(key, sum ? add(sum, row) : row);
  }
  return [...found.values()];
}

/** Rows of counts as one row. There must be one at least. */
export function summed<Row extends { readonly [K in keyof Row]: number }>(
  rows: readonly Row[],
): Row {
  const keys = Object.keys(rows[0]!) as (keyof Row)[];
  return Object.fromEntries(
    keys.map((key) => [key, rows.reduce((sum, row) => sum + row[key], 0)]),
  ) as unknown as Row;
}

/** Lists of counts as one list, place by place. */
export const summedLists = (lists: readonly (readonly number[])[]): number[] =>
  (lists[0] ?? []).map((_, i) => lists.reduce((sum, list) => sum + list[i]!, 0));
