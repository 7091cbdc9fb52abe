/** Numbers, dates and counts as they are written on screen. */
import { DateTime } from "luxon";

const LOCALE = "en-GB";
const number = new Intl.NumberFormat(LOCALE);

export const count = (n: number): string => number.format(n);

export const people = (n: number): string => (n === 1 ? "1 person" : `${count(n)} people`);
export const readers = (n: number): string => (n === 1 ? "1 reader" : `${count(n)} readers`);

/** A share as a percentage, or a dash where there is nothing to share. */
export function percent(part: number, whole: number): string {
  if (whole === 0) return "–";
  const share = (100 * part) / whole;
  return `${share > 0 && share < 10 ? share.toFixed(1) : Math.round(share)} %`;
}

const at = (date: Date, zone: string) => DateTime.fromJSDate(date, { zone }).setLocale(LOCALE);

/** The year where it is not this one. */
const year = (date: Date, now: Date, zone: string): string =>
  at(date, zone).year === at(now, zone).year ? "" : " yyyy";

export const day = (date: Date, now: Date, zone: string): string =>
  at(date, zone).toFormat(`d MMMM${year(date, now, zone)}`);
export const dayShort = (date: Date, now: Date, zone: string): string =>
  at(date, zone).toFormat(`d LLL${year(date, now, zone)}`);
export const weekday = (date: Date, now: Date, zone: string): string =>
  at(date, zone).toFormat(`cccc, d MMMM${year(date, now, zone)}`);
export const time = (date: Date, zone: string): string => at(date, zone).toFormat("H:mm");
export const dayAndTime = (date: Date, zone: string): string =>
  at(date, zone).toFormat("cccc d MMMM yyyy, H:mm");

/** A day with its year, and the time. */
export const dated = (date: Date, zone: string): string =>
  at(date, zone).toFormat("d LLL yyyy, H:mm");
/** An ISO date in words. */
export const isoDay = (date: string): string =>
  DateTime.fromISO(date, { zone: "utc" }).setLocale(LOCALE).toFormat("d LLLL yyyy");

/** How long ago, in words; for anything older, the day. */
export function ago(date: Date, now: Date, zone: string): string {
  const minutes = Math.round((now.getTime() - date.getTime()) / 60_000);
  if (minutes < 1) return "just now";
  if (minutes < 60) return minutes === 1 ? "a minute ago" : `${minutes} minutes ago`;
  const then = at(date, zone).startOf("day");
  const days = Math.round(at(now, zone).startOf("day").diff(then, "days").days);
  if (days === 0) return `today at ${time(date, zone)}`;
  if (days === 1) return "yesterday";
  return day(date, now, zone);
}
