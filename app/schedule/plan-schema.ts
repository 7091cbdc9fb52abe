/** When a campaign leaves, as the form says it. */
import { IANAZone } from "luxon";
import { z } from "zod";
import { readLocalTime } from "#core/schedule/index.ts";

export const planSchema = z
  .object({
    when: z.enum(["now", "later"]),
    date: z.iso.date("Choose a day.").optional(),
    time: z
      .string()
      .regex(/^([01]\d|2[0-3]):[0-5]\d$/, "Write a time, for example 09:00.")
      .optional(),
    zone: z
      .string()
      .refine((zone) => IANAZone.isValidZone(zone), "Choose a zone from the list.")
      .optional(),
    /** Of a time that comes twice that night: which one. */
    turn: z.enum(["first", "second"]).optional(),
  })
  .superRefine(({ when, date, time, zone, turn }, ctx) => {
    if (when === "now") return;
    const wrong = (name: string, message: string) =>
      ctx.addIssue({ code: "custom", path: [name], message });
    for (const [name, value] of Object.entries({ date, time, zone })) {
      if (!value) wrong(name, `Choose a ${name}.`);
    }
    if (!date || !time || !zone) return;
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

/** The moment a plan names; null for now. */
export function momentOf({
  when,
  date,
  time,
  zone,
  turn,
}: z.infer<typeof planSchema>): Date | null {
  if (when === "now") return null;
  const local = readLocalTime(date!, time!, zone!)!;
  if (local.is === "twice") return turn === "second" ? local.second : local.first;
  return local.is === "once" ? local.at : null;
}
