import { DateTime } from "luxon";
import { z } from "zod";
import { fragment } from "../fragment.ts";
import type { Operator } from "../operator.ts";

const day = z.iso.date("Write a date as year-month-day.");
const days = z
  .number("Write a number of days.")
  .int()
  .min(1, "At least one day.")
  .max(36_500, "At most 36,500 days.");

/** ISO dates compare as text. */
const inWords = (date: string) =>
  DateTime.fromISO(date, { zone: "utc", locale: "en-GB" }).toFormat("d MMMM yyyy");
const shifted = (date: string, by: number) =>
  DateTime.fromISO(date, { zone: "utc" }).plus({ days: by }).toISODate()!;

export const on: Operator<string> = {
  op: "on",
  label: "is on",
  types: ["date"],
  argument: day,
  words: (field, argument) => `${field} is on ${inWords(argument)}`,
  test: (value, argument) => value === argument,
  sql: (value, argument) => fragment`(${value}) = ${argument}::text collate "C"`,
};

export const before: Operator<string> = {
  op: "before",
  label: "is before",
  types: ["date"],
  argument: day,
  words: (field, argument) => `${field} is before ${inWords(argument)}`,
  test: (value, argument) => value !== null && (value as string) < argument,
  sql: (value, argument) => fragment`(${value}) < ${argument}::text collate "C"`,
};

export const after: Operator<string> = {
  op: "after",
  label: "is after",
  types: ["date"],
  argument: day,
  words: (field, argument) => `${field} is after ${inWords(argument)}`,
  test: (value, argument) => value !== null && (value as string) > argument,
  sql: (value, argument) => fragment`(${value}) > ${argument}::text collate "C"`,
};

/** Days ago, today included. */
export const withinLast: Operator<number> = {
  op: "withinLast",
  label: "is within the last days",
  types: ["date"],
  argument: days,
  words: (field, argument) => `${field} is within the last ${argument} days`,
  test: (value, argument, { today }) =>
    value !== null && (value as string) > shifted(today, -argument) && (value as string) <= today,
  sql: (value, argument, { today }) =>
    fragment`((${value}) > ${shifted(today, -argument)}::text collate "C" and (${value}) <= ${today}::text collate "C")`,
};

/** Days ahead, today included. */
export const withinNext: Operator<number> = {
  op: "withinNext",
  label: "is within the next days",
  types: ["date"],
  argument: days,
  words: (field, argument) => `${field} is within the next ${argument} days`,
  test: (value, argument, { today }) =>
    value !== null && (value as string) >= today && (value as string) < shifted(today, argument),
  sql: (value, argument, { today }) =>
    fragment`((${value}) >= ${today}::text collate "C" and (${value}) < ${shifted(today, argument)}::text collate "C")`,
};
