/** What an operator is made of. Comparisons are two-valued: with no value, every comparison is false. */
import type { z } from "zod";
import type { FieldType, Key } from "../fields/index.ts";
import type { Sql } from "./fragment.ts";
import type { Said } from "./said.ts";
import type { Now } from "./world.ts";

/** Gives what a record or another thing is called, for the words of a rule. */
export type NameOf = (kind: string, id: string | number) => string;

/** The shape of an argument, for whoever lets a person fill it in. */
export type Asks =
  | "nothing"
  | "words"
  | "several words"
  | "number"
  | "two numbers"
  | "date"
  | "two dates"
  | "days"
  | "near"
  | "record";

export interface Operator<A = unknown> {
  readonly op: string;
  readonly label: string;
  readonly types: readonly FieldType[];
  /** What one fills in to compare with. */
  readonly asks: Asks;
  /** What is compared with; `z.null()` where nothing is. */
  readonly argument: z.ZodType<A>;
  words(field: string, argument: A, nameOf: NameOf): string;
  /** The test of a value that is there, made once for many contacts. */
  compile(argument: A, now: Now): (value: Key) => boolean;
  /** The same test as SQL on what is compared; null or false where it does not hold. */
  sql(value: Sql, argument: A, now: Now): Sql;
  /**
   * The same test in standard Liquid, on a variable that holds what is compared, of a value that is there or not. Left
   * out, or null, where Liquid cannot say it.
   */
  liquid?(value: string, argument: A): Said | null;
  /** Holds where there is no value too: it is the opposite of this other one. */
  readonly oppositeOf?: Operator<A>;
}
