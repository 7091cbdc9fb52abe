/** How a file of people or records is read, and what is done with what it says. */
import { z } from "zod";
import { FIELD_ID, FIELD_TYPES } from "../fields/index.ts";
import { LIMITS } from "../limits.ts";

export const ENCODINGS = ["utf-8", "windows-1252", "utf-16le", "utf-16be"] as const;
export const DELIMITERS = [",", ";", "\t", "|"] as const;

/** How the bytes become rows. */
export const shapeSchema = z.object({
  format: z.enum(["csv", "json"]),
  encoding: z.enum(ENCODINGS),
  delimiter: z.enum(DELIMITERS),
  /** Whether the first row says what the columns are. */
  header: z.boolean(),
});
export type Shape = z.infer<typeof shapeSchema>;

/** What tells whom or what a row is about: a mail address, or the name of a record. */
export const KEY_TARGETS = ["email", "name"] as const;
export type KeyTarget = (typeof KEY_TARGETS)[number];

/** The order of day, month and year. */
export const DATE_ORDERS = ["ymd", "dmy", "mdy"] as const;
const dates = z.enum(DATE_ORDERS).optional();

/** Where a column goes; one of dates says how its own are written, where it differs from the rest. */
export const targetSchema = z.discriminatedUnion("to", [
  z.object({ to: z.literal("skip") }),
  z.object({ to: z.enum(KEY_TARGETS) }),
  z.object({ to: z.literal("field"), field: z.string().regex(FIELD_ID), dates }),
  z.object({
    to: z.literal("new"),
    field: z.string().regex(FIELD_ID),
    label: z.string().trim().min(1, "Give the new field a name.").max(LIMITS.nameLength),
    type: z.enum(FIELD_TYPES).exclude(["record"]),
    dates,
  }),
]);
export type Target = z.infer<typeof targetSchema>;

export const isKey = (target: Target): target is { to: KeyTarget } =>
  (KEY_TARGETS as readonly string[]).includes(target.to);

export const importOptionsSchema = z
  .object({
    shape: shapeSchema,
    columns: z.array(targetSchema).max(LIMITS.importColumns),
    /** The order of day, month and year; null where no date is read. */
    dates: z.enum(DATE_ORDERS).nullable(),
    decimal: z.enum([".", ","]),
    /** An empty cell leaves what is known, or takes it away. */
    empty: z.enum(["keep", "clear"]),
    /** People who are known already are changed, or left as they are. */
    known: z.enum(["change", "leave"]),
    /** Rows that cannot be read are left out, or nothing at all is taken in. */
    refused: z.enum(["without", "nothing"]),
    /** A cell that cannot be read refuses its row, or is left out with a mark. */
    cells: z.enum(["refuse", "leave"]).default("refuse"),
    /** A choice that its field does not have cannot be read, or is added to the field. */
    choices: z.enum(["refuse", "add"]).default("refuse"),
    /** The list all of them are put on; null for none. */
    list: z.string().max(80).nullable(),
  })
  .superRefine(({ columns }, ctx) => {
    if (!columns.some(isKey)) {
      ctx.addIssue("Choose the column that says whom or what each row is about.");
    }
    const targets = columns.flatMap((c) =>
      c.to === "skip" ? [] : isKey(c) ? ["(key)"] : [c.field],
    );
    if (new Set(targets).size < targets.length) ctx.addIssue("Two columns go to the same field.");
  });
export type ImportOptions = z.infer<typeof importOptionsSchema>;
