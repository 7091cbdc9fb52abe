/** Days as people write them: by their language, with a year of two or four digits, or as ISO 8601 says. */

import { DateTime } from "luxon";

/** Languages the studio's dates are written in. */
export const DAY_LANGUAGES = ["en-GB", "fr"] as const;
export type DayLanguage = (typeof DAY_LANGUAGES)[number];

const pad = (n: number, length = 2) => String(n).padStart(length, "0");

/** Whether there is such a day. */
function isDay(year: number, month: number, day: number): boolean {
  const date = new Date(Date.UTC(year, month - 1, day));
  return date.getUTCMonth() === month - 1 && date.getUTCDate() === day;
}

/** A day as ISO 8601 has it (`2031-03-30`), from that or from day, month and year (`30/3/2031`, `30.3.31`). Null where it is none. */
export function isoDayOf(text: string): string | null {
  const iso = /^\s*(\d{4})-(\d{1,2})-(\d{1,2})\s*$/.exec(text);
  const local = /^\s*(\d{1,2})[/. -](\d{1,2})[/. -](\d{4}|\d{2})\s*$/.exec(text);
  const parts = iso ? [iso[1], iso[2], iso[3]] : local ? [local[3], local[2], local[1]] : null;
  if (!parts) return null;
  const [written, month, day] = parts.map(Number) as [number, number, number];
  const year = written < 100 ? 2000 + written : written;
  return isDay(year, month, day) ? `${pad(year, 4)}-${pad(month)}-${pad(day)}` : null;
}

/** A day as it is written: `30/03/2031`. What is no day stays as it is. */
export function writtenDay(text: string): string {
  const iso = isoDayOf(text);
  return iso ? iso.split("-").reverse().join("/") : text;
}

/** A day in words: `Sunday 30 March 2031`, `dimanche 30 mars 2031`; null where it is none. */
export function dayInWords(text: string, language: DayLanguage): string | null {
  const iso = isoDayOf(text);
  if (!iso) return null;
  return DateTime.fromISO(iso, { zone: "utc" }).setLocale(language).toFormat("cccc d MMMM yyyy");
}

/** A time by the clock of 24 hours (`09:05`), from `9:05`, `9.05`, `905` or `9`. Null where it is none. */
export function clockTimeOf(text: string): string | null {
  const found = /^\s*(\d{1,2})(?:[:.h ]?([0-5]\d))?\s*$/.exec(text);
  const hour = Number(found?.[1]);
  return found && hour < 24 ? `${pad(hour)}:${found[2] ?? "00"}` : null;
}
