/** That a band or block is a saved one: the same wherever it stands, and changed everywhere at once. */
import { z } from "zod";

export const linkedSchema = z.strictObject({
  /** The id of the saved block. */
  saved: z.string().regex(/^[A-Za-z0-9_-]{1,40}$/),
  /** It is being changed here, to be put in everywhere afterwards: until then it is this email's own. */
  own: z.literal(true).optional(),
});
export type Linked = z.infer<typeof linkedSchema>;
