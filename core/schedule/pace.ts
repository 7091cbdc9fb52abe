/** How a launch is spread over time: at each reader's own clock, and in waves. */
import { DateTime } from "luxon";
import { z } from "zod";
import { LIMITS } from "../limits.ts";
import { type Quiet, quietSchema } from "./hours.ts";
import { readLocalTime } from "./local-time.ts";

const WHOLE = "Write a whole number.";
export const perHourSchema = z
  .number(WHOLE)
  .int(WHOLE)
  .min(1, "At least 1 an hour.")
  .max(LIMITS.perHour, `At most ${LIMITS.perHour.toLocaleString("en-GB")} an hour.`);

/** What clocks show when each of its readers gets it: an ISO date, and HH:mm. */
export interface OwnTime {
  readonly date: string;
  readonly time: string;
}

export interface Pace {
  /** Each reader gets it when their own clock shows this; null where it is one moment for all. */
  readonly own: OwnTime | null;
  /** Each reader gets it in the hour in which they read, on this day (ISO date); null where that is not asked for. */
  readonly best: string | null;
  /** In waves of so many, one each hour; null where all go at once. */
  readonly perHour: number | null;
  /** Nobody gets it in these hours of their own clock; null where that is not set. */
  readonly quiet: Quiet | null;
}
export const AT_ONCE: Pace = { own: null, best: null, perHour: null, quiet: null };
export const paceSchema: z.ZodType<Pace> = z.object({
  own: z.object({ date: z.string(), time: z.string() }).nullable(),
  best: z.string().nullable().default(null),
  perHour: perHourSchema.nullable(),
  quiet: quietSchema.nullable().default(null),
});

/** The day (ISO date) a launch is of, where its readers' own clocks say when they get it. */
export const ownDay = ({ own, best }: Pick<Pace, "own" | "best">): string | null =>
  own?.date ?? best;

/**
 * The moment at which clocks in a zone show a time, never early: where they leap over it, the end of the leap; where it
 * comes twice, the first. Null where there is no such zone, day or time.
 */
export function ownMoment({ date, time }: OwnTime, zone: string): Date | null {
  const local = readLocalTime(date, time, zone);
  if (local === null) return null;
  if (local.is === "once") return local.at;
  if (local.is === "twice") return local.first;
  // Where a whole day is left out, what follows it is read as it stands.
  const after = readLocalTime(date, local.after, zone);
  return after?.is === "once" ? after.at : DateTime.fromISO(`${date}T${time}`, { zone }).toJSDate();
}

/** The first moment from `after` on at which clocks in a zone show a time: on its day or a later one. Null where there is none. */
export function nextOwnMoment({ date, time }: OwnTime, zone: string, after: Date): Date | null {
  const from = DateTime.max(
    DateTime.fromISO(date, { zone }),
    DateTime.fromJSDate(after, { zone }).startOf("day"),
  );
  if (!from.isValid) return null;
  for (let days = 0; days < 3; days++) {
    const at = ownMoment({ date: from.plus({ days }).toISODate()!, time }, zone);
    if (at && at >= after) return at;
  }
  return null;
}

/** Where days begin first (UTC+14). */
const FIRST_ZONE = "Pacific/Kiritimati";

/** When a launch begins that leaves at a moment: before that, where clocks elsewhere show its time earlier. */
export function startOf(sendAt: Date, { own, best }: Pick<Pace, "own" | "best">, now: Date): Date {
  const time = own ?? (best === null ? null : { date: best, time: "00:00" });
  const first = time && ownMoment(time, FIRST_ZONE);
  return first ? new Date(Math.max(now.getTime(), first.getTime())) : sendAt;
}

/** How many hours after the first the last wave goes. */
export const hoursOf = (readers: number, { perHour }: Pick<Pace, "perHour">): number =>
  perHour === null || readers === 0 ? 0 : Math.ceil(readers / perHour) - 1;

export interface ZoneCount {
  /** Null for those of whom nobody knows. */
  readonly zone: string | null;
  readonly people: number;
}

export interface Spread {
  readonly zones: number;
  readonly first: Date;
  readonly last: Date;
  /** Whose clocks have passed it by now: they get it as soon as it starts. */
  readonly past: number;
}

/** Over which time readers get it at their own clocks; those without a zone have `zone`. Null where nobody gets it. */
export function spreadOf(
  own: OwnTime,
  zone: string,
  counts: readonly ZoneCount[],
  now: Date,
): Spread | null {
  const moments = counts
    .filter(({ people }) => people > 0)
    .flatMap((one) => {
      const theirs = one.zone && ownMoment(own, one.zone);
      const at = theirs || ownMoment(own, zone);
      return at ? [{ at, people: one.people, zone: theirs ? one.zone : zone }] : [];
    });
  if (moments.length === 0) return null;
  const starts = startOf(now, { own, best: null }, now).getTime();
  const due = moments.map(({ at }) => Math.max(at.getTime(), starts));
  return {
    zones: new Set(moments.map((one) => one.zone)).size,
    first: new Date(Math.min(...due)),
    last: new Date(Math.max(...due)),
    past: moments.reduce((sum, { at, people }) => (at < now ? sum + people : sum), 0),
  };
}
