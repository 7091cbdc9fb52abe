/**
 * Merge tags: a named value of the reader, the brand or the campaign that stands in a text as one
 * atom. A tag carries the id of its source, never a name, so that renaming a field breaks nothing.
 */
import { z } from "zod";
import { LIMITS } from "../limits.ts";

export const tagFormatSchema = z.discriminatedUnion("type", [
  z.strictObject({ type: z.literal("case"), to: z.enum(["upper", "lower", "title"]) }),
  z.strictObject({ type: z.literal("number"), decimals: z.number().int().min(0).max(6) }),
  z.strictObject({
    type: z.literal("date"),
    style: z.enum(["short", "medium", "long", "weekday"]),
  }),
]);
export type TagFormat = z.infer<typeof tagFormatSchema>;

/** Where a tag's value comes from: `contact:<field id>` or `contact:<pointer>.<field id>` (a record’s), `brand:<key>` or `campaign:<key>`. */
export const TAG_REF = /^(contact|brand|campaign):[A-Za-z0-9_.-]{1,160}$/;

export const tagSchema = z.strictObject({
  ref: z.string().regex(TAG_REF),
  /** What is shown when the reader has no value; `null` means nobody has decided yet. */
  fallback: z.string().max(LIMITS.lineLength).nullable(),
  format: tagFormatSchema.nullable(),
});
export type Tag = z.infer<typeof tagSchema>;
