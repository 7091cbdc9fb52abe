/** Fields: what is known of a contact, or of a record beside contacts, each with a type. */
import { z } from "zod";
import type { Json } from "../json.ts";
import { LIMITS } from "../limits.ts";

export const FIELD_TYPES = [
  "text",
  "number",
  "date",
  "yesNo",
  "choice",
  "choices",
  "place",
  "web",
  "zone",
  "record",
] as const;
export type FieldType = (typeof FIELD_TYPES)[number];

/** Ids stand in merge tags, rules and column names: lower case letters, digits and underscores. */
export const FIELD_ID = /^[a-z][a-z0-9_]{0,39}$/;

/** How a value is shown; what a type has no use for is left out. */
export interface FieldFormat {
  /** Digits behind the decimal mark. */
  readonly decimals?: number;
  /** Words behind a number: a unit or a currency. */
  readonly unit?: string;
  /** What emails say where somebody has no value, unless a merge tag says otherwise. */
  readonly fallback?: string;
}

export interface Field {
  readonly id: string;
  readonly label: string;
  readonly type: FieldType;
  /** For `choice` and `choices`: what can be chosen. */
  readonly options?: readonly string[];
  /** For `record`: the table whose records it points to. */
  readonly table?: string | null;
  /** What those get who bring no value when they are added; null for nothing. */
  readonly standard?: Json;
  readonly format?: FieldFormat;
}
export type Fields = ReadonlyMap<string, Field>;

/** A table of records beside contacts: sites, people in charge, plots. */
export interface RecordTable {
  readonly id: string;
  readonly name: string;
  readonly fields: Fields;
}
export type RecordTables = ReadonlyMap<string, RecordTable>;

export const formatSchema = z.strictObject({
  decimals: z.number().int().min(0).max(6).optional(),
  unit: z.string().trim().max(12).optional(),
  fallback: z.string().trim().max(LIMITS.lineLength).optional(),
});

export const optionsSchema = z
  .array(z.string().trim().min(1, "A choice without a name.").max(LIMITS.nameLength))
  .max(LIMITS.fieldOptions, `At most ${LIMITS.fieldOptions} choices.`);

/** What a contact has beside fields of one's own; in rules and tags they are named like fields. */
export const EMAIL_FIELD: Field = { id: "email", label: "Email address", type: "text" };
export const ADDED_FIELD: Field = { id: "added", label: "Added", type: "date" };
export const STANDINGS = ["Can be mailed", "Unsubscribed", "Bounced", "Blocked"] as const;
export const STANDING_FIELD: Field = {
  id: "standing",
  label: "Standing",
  type: "choice",
  options: STANDINGS,
};
/** The name of a record, the first thing it has. */
export const NAME_FIELD: Field = { id: "name", label: "Name", type: "text" };

/** Names that no field of one's own can have: what every contact and every record has already. */
const RESERVED = new Set(["email", "added", "standing", "name"]);
export const isReserved = (id: string): boolean => RESERVED.has(id);

/** An id for a new field, made of its label; a number behind it where the id is taken. */
export function fieldIdFor(label: string, taken: (id: string) => boolean): string {
  const plain =
    label
      .normalize("NFKD")
      .replace(/\p{M}+/gu, "")
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "_")
      .replace(/^[^a-z]+|_+$/g, "")
      .slice(0, 36) || "field";
  if (!taken(plain)) return plain;
  for (let n = 2; ; n++) if (!taken(`${plain}_${n}`)) return `${plain}_${n}`;
}

/** The field that says in which zone a contact is: the first of its kind; null where there is none. */
export const zoneFieldOf = (fields: Iterable<Field>): string | null =>
  [...fields].find(({ type }) => type === "zone")?.id ?? null;
