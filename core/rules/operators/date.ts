import { z } from "zod";
import { LIMITS } from "../../limits.ts";
import { dayAndYear, shiftedDay } from "../../schedule/day.ts";
import { fragment } from "../fragment.ts";
import type { Operator } from "../operator.ts";
import { say, there } from "../said.ts";

const day = z.iso.date("Write a date as year-month-day.");
const days = z
  .number("Write a number of days.")
  .int("Write whole days.")
  .min(1, "At least one day.")
  .max(LIMITS.ruleDays, `At most ${LIMITS.ruleDays} days.`);
const types = ["date"] as const;

const ofDays = (n: number) => (n === 1 ? "1 day" : `${n} days`);

/** ISO dates compare as text. */
export const on: Operator<string> = {
  op: "on",
  asks: "date",
  label: "is on",
  types,
  argument: day,
  words: (field, argument) => `${field} is on ${dayAndYear(argument)}`,
  compile: (argument) => (value) => value === argument,
  sql: (value, argument) => fragment`${value} = ${argument}::text`,
  liquid: (value, argument) => say(`${value} == "${argument}"`),
};

export const before: Operator<string> = {
  op: "before",
  asks: "date",
  label: "is before",
  types,
  argument: day,
  words: (field, argument) => `${field} is before ${dayAndYear(argument)}`,
  compile: (argument) => (value) => (value as string) < argument,
  sql: (value, argument) => fragment`${value} < ${argument}::text`,
  liquid: (value, argument) => there(value, say(`${value} < "${argument}"`)),
};

export const after: Operator<string> = {
  op: "after",
  asks: "date",
  label: "is after",
  types,
  argument: day,
  words: (field, argument) => `${field} is after ${dayAndYear(argument)}`,
  compile: (argument) => (value) => (value as string) > argument,
  sql: (value, argument) => fragment`${value} > ${argument}::text`,
  liquid: (value, argument) => there(value, say(`${value} > "${argument}"`)),
};

export const betweenDays: Operator<[string, string]> = {
  op: "betweenDays",
  asks: "two dates",
  label: "is between",
  types,
  argument: z
    .tuple([day, day], "Write two dates.")
    .refine(([from, to]) => from <= to, "The first date is the earlier one."),
  words: (field, [from, to]) => `${field} is between ${dayAndYear(from)} and ${dayAndYear(to)}`,
  compile:
    ([from, to]) =>
    (value) =>
      (value as string) >= from && (value as string) <= to,
  sql: (value, [from, to]) => fragment`${value} between ${from}::text and ${to}::text`,
  liquid: (value, [from, to]) =>
    there(value, { all: [say(`${value} >= "${from}"`), say(`${value} <= "${to}"`)] }),
};

/** Days ago, today included. */
export const withinLast: Operator<number> = {
  op: "withinLast",
  asks: "days",
  label: "is within the last",
  types,
  argument: days,
  words: (field, argument) => `${field} is within the last ${ofDays(argument)}`,
  compile(argument, { today }) {
    const start = shiftedDay(today, -argument);
    return (value) => (value as string) > start && (value as string) <= today;
  },
  sql: (value, argument, { today }) =>
    fragment`(${value} > ${shiftedDay(today, -argument)}::text and ${value} <= ${today}::text)`,
};

/** Days ahead, today included. */
export const withinNext: Operator<number> = {
  op: "withinNext",
  asks: "days",
  label: "is within the next",
  types,
  argument: days,
  words: (field, argument) => `${field} is within the next ${ofDays(argument)}`,
  compile(argument, { today }) {
    const end = shiftedDay(today, argument);
    return (value) => (value as string) >= today && (value as string) < end;
  },
  sql: (value, argument, { today }) =>
    fragment`(${value} >= ${today}::text and ${value} < ${shiftedDay(today, argument)}::text)`,
};

export const longerAgo: Operator<number> = {
  op: "longerAgo",
  asks: "days",
  label: "is longer ago than",
  types,
  argument: days,
  words: (field, argument) => `${field} is longer ago than ${ofDays(argument)}`,
  compile(argument, { today }) {
    const start = shiftedDay(today, -argument);
    return (value) => (value as string) < start;
  },
  sql: (value, argument, { today }) => fragment`${value} < ${shiftedDay(today, -argument)}::text`,
};

/** Days of the year (month and day) that have their anniversary within so many days, today included. */
function anniversaries(today: string, within: number): string[] {
  const found = new Set<string>();
  for (let i = 0; i < Math.min(within, 366); i++) {
    const date = shiftedDay(today, i);
    found.add(date.slice(5));
    // Who was born on 29 February has it on the 28th in years without one.
    if (date.endsWith("-02-28") && shiftedDay(date, 1).endsWith("-03-01")) found.add("02-29");
  }
  if (within >= 366) found.add("02-29");
  return [...found];
}

/** The same day of another year: birthdays, and years of membership. */
export const anniversaryWithin: Operator<number> = {
  op: "anniversaryWithin",
  asks: "days",
  label: "has its anniversary within",
  types,
  argument: days,
  words: (field, argument) =>
    argument === 1
      ? `${field} has its anniversary today`
      : `${field} has its anniversary within ${ofDays(argument)}`,
  compile(argument, { today }) {
    const found = new Set(anniversaries(today, argument));
    return (value) => found.has((value as string).slice(5));
  },
  sql: (value, argument, { today }) =>
    fragment`right(${value}, 5) = any (${anniversaries(today, argument)}::text[])`,
};
