/** What can be done with a campaign in the list of all. */
import { z } from "zod";
import { LIMITS } from "#core/limits.ts";
import { CATEGORIES, type Category } from "#core/templates/categories.ts";
import { required } from "#server/forms.ts";

/** Labels, separated by commas; the same twice is one. */
const labels = z
  .string()
  .max(1_000)
  .default("")
  .transform((text, ctx) => {
    const names = [...new Set(text.split(",").map((name) => name.trim()))].filter(Boolean);
    const long = names.find((name) => name.length > LIMITS.labelLength);
    if (long) {
      const message = `“${long.slice(0, 20)}…” is longer than ${LIMITS.labelLength} characters.`;
      ctx.addIssue({ code: "custom", message });
    } else if (names.length > LIMITS.labels) {
      ctx.addIssue({ code: "custom", message: `At most ${LIMITS.labels} labels.` });
    }
    return names;
  });

const campaign = z.string().max(40);

export const rowSchema = z.discriminatedUnion("do", [
  z.object({ do: z.literal("delete"), campaign }),
  z.object({ do: z.literal("archive"), campaign }),
  z.object({ do: z.literal("restore"), campaign }),
  z.object({ do: z.literal("label"), campaign, labels }),
  z.object({
    do: z.literal("template"),
    campaign,
    name: required("Give it a name that the team will find it by."),
    about: z.string().trim().max(LIMITS.nameLength).default(""),
    category: z.enum(Object.keys(CATEGORIES) as [Category, ...Category[]]),
  }),
]);
