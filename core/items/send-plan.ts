/** How a launch takes its items when it starts. */
import { z } from "zod";
import { CHANGE_KINDS } from "./changes.ts";

export const itemsPlanSchema = z.object({
  /** As they were looked at when it was scheduled, or as they are when it starts. */
  take: z.enum(["kept", "fresh"]),
  /** What must not have become of one: then it stands still and waits for a person. */
  stopAt: z.array(z.enum(CHANGE_KINDS)),
});
export type ItemsPlan = z.infer<typeof itemsPlanSchema>;
export const ITEMS_PLAN: ItemsPlan = { take: "kept", stopAt: ["price", "stock", "gone", "past"] };
