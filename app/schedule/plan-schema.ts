/** When a campaign leaves, as the form says it. */
import { IANAZone } from "luxon";
import { z } from "zod";
import { CHANGE_KINDS, ITEMS_PLAN, type ItemsPlan } from "#core/items/index.ts";
import { parseJson } from "#core/json.ts";
import {
  AT_ONCE,
  clockTimeOf,
  isoDayOf,
  nowIn,
  type Pace,
  perHourSchema,
  readLocalTime,
} from "#core/schedule/index.ts";
import { splitPlanSchema } from "#core/splits/plan.ts";

export const planSchema = z
  .object({
    when: z.enum(["now", "later"]),
    date: z
      .string()
      .transform((text, ctx) => {
        const iso = isoDayOf(text);
        if (!iso) ctx.addIssue({ code: "custom", message: "Write a day, for example 30/03/2031." });
        return iso ?? z.NEVER;
      })
      .optional(),
    time: z
      .string()
      .transform((text, ctx) => {
        const time = clockTimeOf(text);
        if (!time) ctx.addIssue({ code: "custom", message: "Write a time, for example 09:00." });
        return time ?? z.NEVER;
      })
      .optional(),
    zone: z
      .string()
      .refine((zone) => IANAZone.isValidZone(zone), "Choose a zone from the list.")
      .optional(),
    /** How the items of sources are taken, and what must not have become of them. */
    take: z.enum(["kept", "fresh"]).optional(),
    stopAt: z.array(z.enum(CHANGE_KINDS)).optional(),
    /** Set where it is asked what stops it: then nothing named means nothing. */
    asksStops: z.literal("1").optional(),
    /** Whose clock shows that time: the zone's, or each reader's own. */
    clocks: z.enum(["one", "own", "best"]).optional(),
    /** In waves of so many an hour; all at once where it is left empty. */
    perHour: z.coerce.number<string>("Write a whole number.").pipe(perHourSchema).optional(),
    /** What is tried first, as JSON. */
    split: z.string().transform(parseJson).pipe(splitPlanSchema).optional(),
    /** What it was made from. */
    splitWas: z.string().transform(parseJson).pipe(splitPlanSchema).optional(),
    /** Of a time that comes twice that night: which one. */
    turn: z.enum(["first", "second"]).optional(),
  })
  .superRefine(({ when, clocks, date, time: given, zone, turn }, ctx) => {
    if (when === "now") return;
    // The hour in which somebody reads is theirs.
    const time = clocks === "best" ? "12:00" : given;
    const wrong = (name: string, message: string) =>
      ctx.addIssue({ code: "custom", path: [name], message });
    for (const [name, value] of Object.entries({ date, time, zone })) {
      if (!value) wrong(name, `Choose a ${name}.`);
    }
    if (!date || !time || !zone || !IANAZone.isValidZone(zone)) return;
    const local = readLocalTime(date, time, zone);
    if (local === null) wrong("date", "There is no such day.");
    else if (local.is === "never") {
      wrong(
        "time",
        `Clocks go forward that night: after ${local.before} comes ${local.after}. Choose one of those.`,
      );
    } else if (local.is === "twice" && !turn) {
      wrong("turn", "Clocks go back that night: this time comes twice. Say which one.");
    }
  });

/** How the items are taken; as it is usual where nothing was asked. */
export const itemsPlanOf = ({
  take = ITEMS_PLAN.take,
  stopAt = [],
  asksStops,
}: z.infer<typeof planSchema>): ItemsPlan => ({
  take,
  stopAt: asksStops ? stopAt : ITEMS_PLAN.stopAt,
});

/** How it is spread over time. */
export const paceOf = ({
  when,
  clocks = "one",
  date,
  time,
  perHour = null,
}: Pick<z.infer<typeof planSchema>, "when" | "clocks" | "date" | "time"> & {
  perHour?: number | null;
}): Pace => ({
  ...AT_ONCE,
  own: when === "later" && clocks === "own" && date && time ? { date, time } : null,
  best: when === "later" && clocks === "best" && date ? date : null,
  perHour,
});

/** The moment a plan names; null for now. */
export function momentOf({
  when,
  date,
  time,
  zone,
  turn,
  clocks,
}: z.infer<typeof planSchema>): Date | null {
  if (when === "now") return null;
  if (clocks === "best") return nowIn(zone!, new Date(0)).startOf(date!);
  const local = readLocalTime(date!, time!, zone!)!;
  if (local.is === "twice") return turn === "second" ? local.second : local.first;
  return local.is === "once" ? local.at : null;
}
