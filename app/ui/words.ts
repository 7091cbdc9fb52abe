/** Numbers, dates and counts as they are written on screen. */
import { counted } from "#core/counted.ts";
import { kilobytes } from "#core/kilobytes.ts";
import { dayIn, daysBetween, momentParts, shortMonth } from "#core/schedule/day.ts";

const LOCALE = "en-GB";
const number = new Intl.NumberFormat(LOCALE);

export const count = (n: number): string => number.format(n);

export { counted };
export const people = (n: number): string => counted(n, "person", "people");
export const readers = (n: number): string => counted(n, "reader");

/** The size of a file. A KB has 1,024 bytes here and in all checks; an MB a million, as limits are told. */
export const fileSize = (bytes: number): string =>
  bytes < 1e6 ? `${count(kilobytes(bytes))} KB` : `${Math.round(bytes / 1e5) / 10} MB`;

/** A share as a percentage, or a dash where there is nothing to share. */
export function percent(part: number, whole: number): string {
  if (whole === 0) return "–";
  const share = (100 * part) / whole;
  return `${share > 0 && share < 10 ? share.toFixed(1) : Math.round(share)} %`;
}

const at = (date: Date, zone: string) => momentParts(date, zone, LOCALE);

/** The year where it is not this one. */
const year = (date: Date, now: Date, zone: string): string => {
  const { year } = at(date, zone);
  return year === at(now, zone).year ? "" : ` ${year}`;
};

export function day(date: Date, now: Date, zone: string): string {
  const parts = at(date, zone);
  return `${parts.day} ${parts.month}${year(date, now, zone)}`;
}
export function dayShort(date: Date, now: Date, zone: string): string {
  const { day } = at(date, zone);
  return `${day} ${shortMonth(date, zone, LOCALE)}${year(date, now, zone)}`;
}
export const weekday = (date: Date, now: Date, zone: string): string =>
  `${at(date, zone).weekday}, ${day(date, now, zone)}`;
export function time(date: Date, zone: string): string {
  const { hour, minute } = at(date, zone);
  return `${Number(hour)}:${minute}`;
}
export function dayAndTime(date: Date, zone: string): string {
  const { weekday, day, month, year } = at(date, zone);
  return `${weekday} ${day} ${month} ${year}, ${time(date, zone)}`;
}

/** A day with its year, and the time. */
export function dated(date: Date, zone: string): string {
  const { day, year } = at(date, zone);
  return `${day} ${shortMonth(date, zone, LOCALE)} ${year}, ${time(date, zone)}`;
}

/** How long ago, in words; for anything older, the day. */
export function ago(date: Date, now: Date, zone: string): string {
  const minutes = Math.round((now.getTime() - date.getTime()) / 60_000);
  if (minutes < 1) return "just now";
  if (minutes < 60) return minutes === 1 ? "a minute ago" : `${minutes} minutes ago`;
  const days = daysBetween(dayIn(date, zone), dayIn(now, zone));
  if (days === 0) return `today at ${time(date, zone)}`;
  if (days === 1) return "yesterday";
  return day(date, now, zone);
}

/** How long something takes, by its seconds: “about 4 minutes”. */
export function lasting(seconds: number): string {
  if (seconds < 50) return "less than a minute";
  const minutes = Math.round(seconds / 60);
  if (minutes < 90) return minutes === 1 ? "about a minute" : `about ${minutes} minutes`;
  return `about ${counted(Math.round(minutes / 60), "hour")}`;
}
