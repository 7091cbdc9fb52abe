/** Hours of the day: those in which nobody gets anything, and the one in which somebody reads. */
import { DateTime } from "luxon";
import { z } from "zod";
import { LIMITS } from "../limits.ts";

const hour = z.number().int().min(0).max(23);
/** From one full hour to another at readers' own clocks, over midnight where the first is later. */
export const quietSchema = z.object({ from: hour, to: hour });
export type Quiet = z.infer<typeof quietSchema>;

export const isQuiet = (hour: number, { from, to }: Quiet): boolean =>
  from <= to ? hour >= from && hour < to : hour >= from || hour < to;

/** The moment itself, or the end of the quiet hours in which it lies at the clocks of a zone. */
export function awake(at: Date, zone: string, quiet: Quiet | null): Date {
  if (quiet === null) return at;
  const local = DateTime.fromJSDate(at, { zone });
  if (!local.isValid || !isQuiet(local.hour, quiet)) return at;
  const end = local.startOf("day").set({ hour: quiet.to });
  return (
    end > local ? end : local.startOf("day").plus({ days: 1 }).set({ hour: quiet.to })
  ).toJSDate();
}

/** Opens by the hour of the day, 24 of them. */
export type Hours = readonly number[];
export const NO_HOURS: Hours = Array.from({ length: 24 }, () => 0);

/** Each hour with a part of those beside it: whoever reads at 8:05 today reads at 7:55 tomorrow. */
const smoothed = (hours: Hours): number[] =>
  hours.map((n, i) => n / 2 + (hours[(i + 23) % 24]! + hours[(i + 1) % 24]!) / 4);

/**
 * The hour in which somebody is most likely to read: by their own opens, and by those of all readers as far as their own
 * are few. Never a quiet one. Without any opens of anybody it is the standard hour, or the first that is not quiet.
 */
export function bestHour(own: Hours, all: Hours, quiet: Quiet | null): number {
  const sum = all.reduce((total, n) => total + n, 0);
  const others = smoothed(all).map((n) => (sum === 0 ? 0 : (n / sum) * LIMITS.bestHourWeight));
  const scores = smoothed(own).map((n, i) => n + others[i]!);
  const allowed = scores.map((_, i) => i).filter((i) => quiet === null || !isQuiet(i, quiet));
  // Where nothing speaks for an hour, the standard one; of equal ones the first after it.
  const ordered = allowed.sort((a, b) => ((a - STANDARD + 24) % 24) - ((b - STANDARD + 24) % 24));
  return ordered.reduce(
    (best, i) => (scores[i]! > scores[best]! ? i : best),
    ordered[0] ?? STANDARD,
  );
}
const STANDARD = 9;

/** A full hour as clocks show it. */
export const hourTime = (hour: number): string => `${String(hour).padStart(2, "0")}:00`;
