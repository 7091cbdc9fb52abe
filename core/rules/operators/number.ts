import { z } from "zod";
import { fragment } from "../fragment.ts";
import type { Operator } from "../operator.ts";

const amount = z.number("Write a number.");
const pair = z
  .tuple([amount, amount])
  .refine(([low, high]) => low <= high, "The first number is the smaller one.");
/** Numbers go as text, so that no driver rounds them on the way. */
const text = (n: number) => String(n);

export const equals: Operator<number> = {
  op: "equals",
  label: "is",
  types: ["number"],
  argument: amount,
  words: (field, argument) => `${field} is ${argument}`,
  test: (value, argument) => value === argument,
  sql: (value, argument) => fragment`(${value}) = ${text(argument)}::numeric`,
};

export const below: Operator<number> = {
  op: "below",
  label: "is less than",
  types: ["number"],
  argument: amount,
  words: (field, argument) => `${field} is less than ${argument}`,
  test: (value, argument) => value !== null && (value as number) < argument,
  sql: (value, argument) => fragment`(${value}) < ${text(argument)}::numeric`,
};

export const above: Operator<number> = {
  op: "above",
  label: "is more than",
  types: ["number"],
  argument: amount,
  words: (field, argument) => `${field} is more than ${argument}`,
  test: (value, argument) => value !== null && (value as number) > argument,
  sql: (value, argument) => fragment`(${value}) > ${text(argument)}::numeric`,
};

export const between: Operator<[number, number]> = {
  op: "between",
  label: "is between",
  types: ["number"],
  argument: pair,
  words: (field, [low, high]) => `${field} is between ${low} and ${high}`,
  test: (value, [low, high]) =>
    value !== null && (value as number) >= low && (value as number) <= high,
  sql: (value, [low, high]) =>
    fragment`(${value}) between ${text(low)}::numeric and ${text(high)}::numeric`,
};
