import { z } from "zod";
import { required } from "#server/forms.ts";

export const nameSchema = z.object({ name: required("Give it a name.") });
