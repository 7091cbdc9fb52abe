/** Holds: what a template's author lets others change in a band or block. */
import { z } from "zod";

export const HOLDS = { free: "Everything", text: "Text only", fixed: "Nothing" } as const;
export type Hold = keyof typeof HOLDS;
export const holdSchema = z.enum(Object.keys(HOLDS) as [Hold, ...Hold[]]);
