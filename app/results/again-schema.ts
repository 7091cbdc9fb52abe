/** Another subject for those who did not open. */
import { z } from "zod";
import { required } from "#server/forms.ts";

/** Which variant the rest gets, by its number. */
export const chooseSchema = z.object({ choose: z.coerce.number().int().min(0) });

export const againSchema = z.object({
  subject: required("Write another subject."),
});
