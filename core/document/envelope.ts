/** An edit on its way: who made it, where, on which state. */
import { z } from "zod";
import { editSchema } from "./edits/kinds.ts";
import type { Numbered } from "./replica.ts";

const idSchema = z.string().regex(/^[A-Za-z0-9_-]{8,40}$/);
export const tabSchema = z.string().regex(/^[A-Za-z0-9_-]{4,40}$/);

/** A `Change` as it travels. */
export const changeSchema = z.strictObject({
  /** Made by the browser, so that the same edit sent twice does no harm. */
  id: idSchema,
  edit: editSchema,
  does: z.enum(["do", "undo", "redo"]),
  step: idSchema,
  of: idSchema.nullable(),
});

/** Edits made one after another on a state, from one tab. */
export const envelopeSchema = z.strictObject({
  tab: tabSchema,
  /** The sequence number of the state they were made on. */
  base: z.number().int().min(0),
  changes: z.array(changeSchema),
});
export type Envelope = z.infer<typeof envelopeSchema>;

/** An edit as stored and as followers get it. */
export interface StoredEdit extends Numbered {
  readonly tab: string;
  readonly person: string;
  readonly at: string;
}
