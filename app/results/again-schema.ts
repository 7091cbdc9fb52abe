/** Another subject for those who did not open. */
import { z } from "zod";
import { required } from "#server/forms.ts";

export const againSchema = z.object({
  subject: required("Write another subject."),
});
