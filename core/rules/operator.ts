/** What an operator is made of. Comparisons are two-valued: with no value, every comparison is false. */
import type { z } from "zod";
import type { FieldType } from "./fields.ts";
import type { Sql } from "./fragment.ts";

/** When and where a rule is read: relative dates count from `today` (ISO date in the sender's zone). */
export interface Now {
  readonly today: string;
}

/** A contact's value as an operator sees it: of the operator's type, or null for no value. */
export type Value = string | number | null;

export interface Operator<A = unknown> {
  readonly op: string;
  readonly label: string;
  readonly types: readonly FieldType[];
  /** What is compared with; `z.null()` where nothing is. */
  readonly argument: z.ZodType<A>;
  words(field: string, argument: A): string;
  test(value: Value, argument: A, now: Now): boolean;
  /** The same test as SQL; `value` is null in SQL where the contact has no value. */
  sql(value: Sql, argument: A, now: Now): Sql;
}
