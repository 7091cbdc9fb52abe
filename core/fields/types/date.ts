import type { FieldKind, Reading } from "../kind.ts";

const ISO = /^(\d{4})-(\d{2})-(\d{2})$/;
const WITH_TIME = /^(\d{4})-(\d{2})-(\d{2})[T ]\d{2}:\d{2}/;
const PARTS = /^(\d{1,4})\s*[./-]\s*(\d{1,2})\s*[./-]\s*(\d{1,4})$/;

const DAYS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
const isLeap = (year: number) => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;

/** Whether there is such a day (Gregorian calendar, years of four digits). */
function isDay(year: number, month: number, day: number): boolean {
  if (year < 1000 || year > 9999 || month < 1 || month > 12 || day < 1) return false;
  return day <= (month === 2 && isLeap(year) ? 29 : DAYS[month - 1]!);
}

const two = (n: number) => (n < 10 ? `0${n}` : String(n));

/** The ISO date (ISO 8601) of a day there is, or null. */
const iso = (year: number, month: number, day: number): string | null =>
  isDay(year, month, day) ? `${year}-${two(month)}-${two(day)}` : null;

/** The three numbers of a date that is not written as ISO 8601, or null. */
export function dateParts(text: string): readonly [number, number, number] | null {
  const found = PARTS.exec(text.trim());
  return found ? [Number(found[1]), Number(found[2]), Number(found[3])] : null;
}

/** A year of two digits is the one nearest to now that is not in the future by more than 20 years. */
function fullYear(year: number, now: number): number {
  if (year >= 100) return year;
  const ours = now - (now % 100) + year;
  return ours > now + 20 ? ours - 100 : ours;
}

/** A date written in one order and read in a year, as an ISO date; null where there is no such day. */
export function readDate(text: string, order: Reading["dates"], now: number): string | null {
  if (text.length === 10 && ISO.test(text)) {
    return isDay(+text.slice(0, 4), +text.slice(5, 7), +text.slice(8)) ? text : null;
  }
  const written = text.trim();
  const whole = ISO.exec(written) ?? WITH_TIME.exec(written);
  if (whole) return iso(Number(whole[1]), Number(whole[2]), Number(whole[3]));
  const parts = dateParts(written);
  if (!parts) return null;
  const [a, b, c] = parts;
  if (a > 31) return iso(a, b, c);
  if (order === "ymd") return null;
  return order === "dmy" ? iso(fullYear(c, now), b, a) : iso(fullYear(c, now), a, b);
}

export const date: FieldKind<string> = {
  type: "date",
  label: "Date",
  column: "text",
  key: null,
  check: (value) =>
    typeof value === "string" && ISO.test(value) ? readDate(value, "ymd", 0) : null,
  parse(text, _field, { dates, year }) {
    const value = readDate(text, dates, year);
    if (value === null && text.trim() === "") return { value: null };
    return value ? { value } : { problem: `“${text.slice(0, 40)}” is not a date` };
  },
  write: (value) => value,
  sample: (_field, n) => `2026-05-${String((n % 28) + 1).padStart(2, "0")}`,
};
