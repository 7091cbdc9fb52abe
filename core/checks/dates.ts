/** Dates in the words: whether the weekday is theirs, and whether they are over. */
import type { Mend } from "../kinds/kind.ts";
import type { Letters } from "../text/index.ts";
import { DAYS, MONTHS, monthOf, weekdayLike, weekdayOf } from "./calendar-words.ts";
import type { Check } from "./check.ts";
import { inPassage, matchesIn, type Passage, rewording } from "./passages.ts";

/** A date that stands in a text. */
interface Dated {
  readonly passage: Passage;
  readonly paragraph: Letters;
  readonly words: string;
  readonly weekday: { readonly name: string; readonly at: number } | null;
  readonly day: { readonly number: number; readonly at: number; readonly length: number };
  readonly month: number;
  /** As it stands there; null where it is left out. */
  readonly year: number | null;
}

const EITHER_WAY = [
  // Saturday 8 February 2025, samedi 8 février
  `(?:(?<weekday>${DAYS.source})(?:,? (?:the )?|,? le ))?(?<day>\\d{1,2})(?:st|nd|rd|th|er)?(?: of)? (?<month>${MONTHS.source})(?:,? (?<year>\\d{4}))?`,
  // Saturday, February 8, 2025
  `(?:(?<weekday>${DAYS.source}),? )?(?<month>${MONTHS.source}) (?<day>\\d{1,2})(?:st|nd|rd|th)?(?:,? (?<year>\\d{4}))?`,
].map((source) => new RegExp(`(?<![\\p{L}\\p{N}])${source}(?![\\p{L}\\p{N}])`, "dgiu"));

const known = new WeakMap<readonly Passage[], readonly Dated[]>();
function datesIn(passages: readonly Passage[]): readonly Dated[] {
  const dates = known.get(passages) ?? readDates(passages);
  known.set(passages, dates);
  return dates;
}

/** A date has a digit in it: most texts have none. */
const withDigits = (passages: readonly Passage[]) =>
  passages.filter(({ paragraphs }) => paragraphs.some(({ letters }) => /\d/.test(letters)));

function readDates(all: readonly Passage[]): Dated[] {
  const passages = withDigits(all);
  return EITHER_WAY.flatMap((pattern) =>
    [...matchesIn(passages, pattern)].map(({ passage, paragraph, match }) => {
      const { weekday, day, month, year } = match.groups as Record<string, string | undefined>;
      const at = (name: string) => match.indices!.groups![name]![0];
      return {
        passage,
        paragraph,
        words: match[0],
        weekday: weekday ? { name: weekday, at: at("weekday") } : null,
        day: { number: Number(day), at: at("day"), length: day!.length },
        month: monthOf(month!),
        year: year ? Number(year) : null,
      };
    }),
  );
}

const DAY_MS = 86_400_000;
const utc = (year: number, month: number, day: number) => new Date(Date.UTC(year, month, day));
const isThere = (date: Date, { month, day }: Dated) =>
  date.getUTCMonth() === month && date.getUTCDate() === day.number;

/** The day a date means: that of its year, or the one nearest to today, rather ahead. Null for 31 February. */
function meant(dated: Dated, today: string): Date | null {
  const now = Date.parse(today);
  const years =
    dated.year === null ? [-1, 0, 1].map((n) => new Date(now).getUTCFullYear() + n) : [dated.year];
  const days = years
    .map((year) => utc(year, dated.month, dated.day.number))
    .filter((date) => isThere(date, dated));
  // What is half a year back is meant to come.
  const distance = (date: Date) => Math.abs(date.getTime() - now - 90 * DAY_MS);
  return days.sort((a, b) => distance(a) - distance(b))[0] ?? null;
}

export const weekdays: Check = {
  id: "weekday",
  run({ passages, today }) {
    if (!today) return [];
    return datesIn(passages).flatMap((dated) => {
      const { passage, paragraph, weekday, day, year, words } = dated;
      if (!weekday) return [];
      const date = meant(dated, today);
      const place = { check: "weekday", severity: "stop" as const, ...inPassage(passage) };
      if (!date) {
        return [
          { ...place, message: `There is no “${words}”`, detail: "The month has no such day." },
        ];
      }
      const wanted = weekdayOf(weekday.name);
      if (date.getUTCDay() === wanted) return [];
      const real = weekdayLike(date.getUTCDay(), weekday.name);
      const off = ((wanted - date.getUTCDay() + 10) % 7) - 3;
      const near = new Date(date.getTime() + off * DAY_MS);
      const mends: Mend[] = [
        {
          label: `Make it ${real}`,
          edits: [
            rewording(passage, paragraph, [weekday.at, weekday.at + weekday.name.length], real),
          ],
        },
      ];
      if (near.getUTCMonth() === dated.month) {
        const number = String(near.getUTCDate());
        mends.push({
          label: `Make it the ${number}`,
          edits: [rewording(passage, paragraph, [day.at, day.at + day.length], number)],
        });
      }
      return [
        {
          ...place,
          message: `“${words}” is a ${real}`,
          detail:
            year === null
              ? `In ${date.getUTCFullYear()}, that is.`
              : "The weekday and the date do not fit.",
          mends,
        },
      ];
    });
  },
};

/** Older ones are told as history. */
const LATELY = 366;

export const pastDates: Check = {
  id: "past-date",
  run({ passages, today }) {
    if (!today) return [];
    return datesIn(passages).flatMap((dated) => {
      const date = dated.year === null ? null : meant(dated, today);
      if (!date) return [];
      const days = Math.round((Date.parse(today) - date.getTime()) / DAY_MS);
      if (days <= 0 || days > LATELY) return [];
      return [
        {
          check: "past-date",
          severity: "look" as const,
          message: `“${dated.words}” is over`,
          detail: days === 1 ? "It was yesterday." : `It was ${days} days ago.`,
          ...inPassage(dated.passage),
        },
      ];
    });
  },
};
