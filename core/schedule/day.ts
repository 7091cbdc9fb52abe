/** Days as people write them: by their language, with a year of two or four digits, or as ISO 8601 says. */

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

const FORMATS = {
  long: {
    weekday: "long",
    day: "numeric",
    month: "long",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
    hourCycle: "h23",
  },
  short: { day: "numeric", month: "short" },
  figures: { day: "2-digit", month: "2-digit", year: "numeric" },
} as const satisfies Record<string, Intl.DateTimeFormatOptions>;
type Parts = Readonly<Partial<Record<Intl.DateTimeFormatPartTypes, string>>>;

const formats = new Map<string, Intl.DateTimeFormat>();
/** The pieces of a moment in a zone (ECMA-402). Making a format costs more than all its uses: it is kept. */
function partsOf(at: Date, zone: string, language: string, how: keyof typeof FORMATS): Parts {
  const key = `${how} ${language} ${zone}`;
  let format = formats.get(key);
  if (!format) {
    format = new Intl.DateTimeFormat(language, { ...FORMATS[how], timeZone: zone });
    formats.set(key, format);
  }
  return Object.fromEntries(format.formatToParts(at).map(({ type, value }) => [type, value]));
}

export interface MomentParts {
  readonly weekday: string;
  readonly day: string;
  readonly month: string;
  readonly year: string;
  /** By the clock of 24 hours, two digits. */
  readonly hour: string;
  readonly minute: string;
}
/** A moment in a zone (IANA) as it is written in a language, piece by piece. */
export const momentParts = (at: Date, zone: string, language: DayLanguage): MomentParts =>
  partsOf(at, zone, language, "long") as unknown as MomentParts;

/** The month of a moment, shortened: `Sept`. */
export const shortMonth = (at: Date, zone: string, language: DayLanguage): string =>
  partsOf(at, zone, language, "short").month!;

/** The ISO day that it is in a zone at a moment. */
export function dayIn(at: Date, zone: string): string {
  const { year, month, day } = partsOf(at, zone, "en-GB", "figures");
  return `${year}-${month}-${day}`;
}

const noonOf = (iso: string) => new Date(`${iso}T12:00:00Z`);

/** A day in words: `Sunday 30 March 2031`, `dimanche 30 mars 2031`; null where it is none. */
export function dayInWords(text: string, language: DayLanguage): string | null {
  const iso = isoDayOf(text);
  if (!iso) return null;
  const { weekday, day, month, year } = momentParts(noonOf(iso), "UTC", language);
  return `${weekday} ${day} ${month} ${year}`;
}

/** An ISO day in English words, without its weekday: `30 March 2031`. */
export function dayAndYear(iso: string): string {
  const { day, month, year } = momentParts(noonOf(iso), "UTC", "en-GB");
  return `${day} ${month} ${year}`;
}

/** The ISO day so many days later, or (by less than none) earlier. */
export function shiftedDay(iso: string, by: number): string {
  const date = noonOf(iso);
  date.setUTCDate(date.getUTCDate() + by);
  return date.toISOString().slice(0, 10);
}

/** How many days a day is after another. */
export const daysBetween = (from: string, to: string): number =>
  Math.round((noonOf(to).getTime() - noonOf(from).getTime()) / 86_400_000);

/** A time by the clock of 24 hours (`09:05`), from `9:05`, `9.05`, `905` or `9`. Null where it is none. */
export function clockTimeOf(text: string): string | null {
  const found = /^\s*(\d{1,2})(?:[:.h ]?([0-5]\d))?\s*$/.exec(text);
  const hour = Number(found?.[1]);
  return found && hour < 24 ? `${pad(hour)}:${found[2] ?? "00"}` : null;
}
