/**
 * Merge tags: a named value of the reader, the brand or the campaign that stands in a text as one
 * atom. A tag carries the id of its source, never a name, so that renaming a field breaks nothing.
 */
import { z } from "zod";
import type { Json } from "../json.ts";
import { LIMITS } from "../limits.ts";

export const tagFormatSchema = z.discriminatedUnion("type", [
  z.strictObject({ type: z.literal("case"), to: z.enum(["upper", "lower", "title"]) }),
  z.strictObject({ type: z.literal("number"), decimals: z.number().int().min(0).max(6) }),
  /** An amount in a currency (ISO 4217). */
  z.strictObject({ type: z.literal("money"), currency: z.string().regex(/^[A-Z]{3}$/) }),
  z.strictObject({
    type: z.literal("date"),
    style: z.enum(["short", "medium", "long", "weekday", "dayMonth", "monthYear", "year"]),
  }),
  /** How many days there are until a date, or have been since. */
  z.strictObject({ type: z.literal("days"), to: z.enum(["until", "since"]) }),
  /** A number with the word for one or for several, by the language's own rules. */
  z.strictObject({
    type: z.literal("plural"),
    one: z.string().trim().min(1).max(60),
    other: z.string().trim().min(1).max(60),
  }),
  /** With “a” or “an” before it. */
  z.strictObject({ type: z.literal("article") }),
  /** No longer than so many characters. */
  z.strictObject({ type: z.literal("trim"), length: z.number().int().min(4).max(300) }),
]);
export type TagFormat = z.infer<typeof tagFormatSchema>;

/**
 * Where a tag's value comes from: `contact:<field id>` or `contact:<pointer>.<field id>` (a record’s), `brand:<key>`,
 * `campaign:<key>`, `derived:<id>`, `code:<roll>`, or `item:<field id>` within the design of an item.
 */
export const TAG_REF = /^(contact|brand|campaign|derived|code|item):[A-Za-z0-9_.-]{1,160}$/;

export const tagSchema = z.strictObject({
  ref: z.string().regex(TAG_REF),
  /** What is shown when the reader has no value; `null` means nobody has decided yet. */
  fallback: z.string().max(LIMITS.lineLength).nullable(),
  format: tagFormatSchema.nullable(),
});
export interface Tag extends z.infer<typeof tagSchema> {
  /** An event whose time is said by the clock of the zone that is the value: no tag of a document has this either. */
  readonly clock?: { readonly at: number; readonly values: Readonly<Record<string, Json>> };
  /** What it says to everybody, where an item has said it: no tag of a document has this. */
  readonly said?: string | number | boolean;
}

/** The field of an item that a tag names; null for another tag. */
export const itemFieldOf = (ref: string): string | null =>
  ref.startsWith("item:") ? ref.slice("item:".length) : null;
/** What stands for the picture of an item, in its design. */
export const ITEM_PICTURE = "item:picture";
