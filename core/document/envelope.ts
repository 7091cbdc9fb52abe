/** An edit on its way: who made it, where, on which state. */
import { z } from "zod";
import { editSchema } from "./edits/index.ts";

export const envelopeSchema = z.strictObject({
  /** Made by the browser, so that the same edit sent twice does no harm. */
  id: z.string().regex(/^[A-Za-z0-9_-]{8,40}$/),
  tab: z.string().regex(/^[A-Za-z0-9_-]{4,40}$/),
  /** The sequence number of the state the edit was made on. */
  base: z.number().int().min(0),
  edit: editSchema,
});
export type Envelope = z.infer<typeof envelopeSchema>;

/** An edit as stored and as followers get it. */
export interface StoredEdit {
  readonly id: string;
  readonly seq: number;
  readonly tab: string;
  readonly person: string;
  readonly at: string;
  readonly edit: z.infer<typeof editSchema>;
}
