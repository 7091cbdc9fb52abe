/** What a type of field is made of. */
import type { Json } from "../json.ts";
import type { Field, FieldType } from "./field.ts";

/** A value as it is compared: texts folded, choices folded, a place as latitude and longitude. */
export type Key = string | number | boolean | readonly string[] | readonly [number, number];

/** How the values of a file are written; what cannot be known from a value alone. */
export interface Reading {
  readonly dates: "ymd" | "dmy" | "mdy";
  readonly decimal: "." | ",";
  /** The year in which it is read: what a year of two digits stands for hangs on it. */
  readonly year: number;
  /** The id of a record by its name, or null where there is none. */
  record(table: string, name: string): number | null;
}
/** Values as Septima itself writes them. */
export const OWN_READING: Reading = { dates: "ymd", decimal: ".", year: 2000, record: () => null };

export type Parsed<V> = { readonly value: V | null } | { readonly problem: string };

export interface FieldKind<V extends Json = Json> {
  readonly type: FieldType;
  /** What it is called where one chooses a type. */
  readonly label: string;
  /** The PostgreSQL type it is kept in. */
  readonly column: "text" | "float8" | "boolean" | "text[]" | "jsonb" | "bigint";
  /** A second column with what is compared; null where the kept value itself is. */
  readonly key: { readonly column: "text" | "text[]" | "float8[]"; of(value: V): Key } | null;
  /** A value of the type, cleaned; null for anything else. */
  check(value: unknown, field: Field): V | null;
  /** A value written in words: in a file, or in an input. An empty text is no value. */
  parse(text: string, field: Field, reading: Reading): Parsed<V>;
  /** The value in words that `parse` reads back (with `OWN_READING`). */
  write(value: V, field: Field): string;
  /** A value somebody might have, as tags write it; another for another `n` (0, 1, …) where there are several. */
  sample(field: Field, n: number): string | number;
}
