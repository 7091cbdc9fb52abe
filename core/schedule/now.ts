/** A moment in a zone, with the days of that zone. */
import { DateTime } from "luxon";
import { dayIn } from "./day.ts";

/** The day that is today at a moment in a zone (IANA), and when days begin there: not always at midnight. */
export const nowIn = (zone: string, at: Date) => ({
  at,
  today: dayIn(at, zone),
  startOf: (day: string) => DateTime.fromISO(day, { zone }).startOf("day").toJSDate(),
});
