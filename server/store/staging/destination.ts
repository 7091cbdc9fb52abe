/** Where a file goes: to contacts, or to a table of records. What differs between the two stands here. */

import type { KeyTarget } from "#core/import/index.ts";
import { LIMITS } from "#core/limits.ts";
import { constantSql, fragment, identifier, type Sql } from "#core/rules/index.ts";
import { CONTACTS, tableSql } from "../fields.ts";

export interface Destination {
  readonly table: string;
  /** The database table. */
  readonly at: Sql;
  /** The column of a file that says whom or what a row is about. */
  readonly key: KeyTarget;
  /** Columns made of it: as written; as it tells apart; folded, as what is alike is found. */
  readonly columns: readonly string[];
  readonly shown: string;
  readonly exact: string;
  readonly folded: string;
  /** The same as SQL. */
  readonly sql: { readonly shown: Sql; readonly exact: Sql; readonly folded: Sql };
  /** What a new row has beside its key and its values, of a staged row `s`. */
  readonly own: { readonly names: Sql; values(now: Date): Sql; readonly joins: Sql };
  /** How many rows the table may hold. */
  readonly most: number;
  /** Why a row is refused whose key stood in an earlier one. */
  readonly repeated: string;
}

const PEOPLE: Destination = {
  table: CONTACTS,
  at: constantSql("contacts"),
  key: "email",
  columns: ["email", "email_key", "email_folded"],
  shown: "email",
  exact: "email_key",
  folded: "email_folded",
  sql: {
    shown: identifier("email"),
    exact: identifier("email_key"),
    folded: identifier("email_folded"),
  },
  own: {
    names: constantSql(", added, created_at, held"),
    values: (now) =>
      fragment`, ${now.toISOString().slice(0, 10)}::text, ${now}::timestamptz, h.reason`,
    joins: constantSql("left join suppressions h on h.email_folded = s.email_folded"),
  },
  most: Number.POSITIVE_INFINITY,
  repeated: "the same address as in row ",
};

const recordsOf = (table: string): Destination => ({
  table,
  at: tableSql(table),
  key: "name",
  columns: ["name", "name_folded"],
  shown: "name",
  exact: "name_folded",
  folded: "name_folded",
  sql: {
    shown: identifier("name"),
    exact: identifier("name_folded"),
    folded: identifier("name_folded"),
  },
  own: {
    names: constantSql(", created_at"),
    values: (now) => fragment`, ${now}::timestamptz`,
    joins: constantSql(""),
  },
  most: LIMITS.recordsPerTable,
  repeated: "the same name as in row ",
});

export const destinationOf = (table: string): Destination =>
  table === CONTACTS ? PEOPLE : recordsOf(table);
