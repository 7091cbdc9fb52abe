import { z } from "zod";
import { fragment } from "../fragment.ts";
import type { Operator } from "../operator.ts";
import { liquidNumber, saidOf, say, there } from "../said.ts";

const amount = z.number("Write a number.");
const pair = z
  .tuple([amount, amount], "Write two numbers.")
  .refine(([low, high]) => low <= high, "The first number is the smaller one.");

const types = ["number"] as const;

export const equals: Operator<number> = {
  op: "equals",
  asks: "number",
  label: "is",
  types,
  argument: amount,
  words: (field, argument) => `${field} is ${argument}`,
  compile: (argument) => (value) => value === argument,
  sql: (value, argument) => fragment`${value} = ${argument}::float8`,
  liquid: (value, argument) => saidOf([argument], liquidNumber, ([n]) => say(`${value} == ${n}`)),
};

export const differs: Operator<number> = {
  op: "differs",
  asks: "number",
  label: "is something other than",
  types,
  argument: amount,
  words: (field, argument) => `${field} is something other than ${argument}`,
  compile: (argument) => (value) => value !== argument,
  sql: (value, argument) => fragment`${value} <> ${argument}::float8`,
  liquid: (value, argument) =>
    saidOf([argument], liquidNumber, ([n]) => there(value, say(`${value} != ${n}`))),
};

export const below: Operator<number> = {
  op: "below",
  asks: "number",
  label: "is less than",
  types,
  argument: amount,
  words: (field, argument) => `${field} is less than ${argument}`,
  compile: (argument) => (value) => (value as number) < argument,
  sql: (value, argument) => fragment`${value} < ${argument}::float8`,
  liquid: (value, argument) =>
    saidOf([argument], liquidNumber, ([n]) => there(value, say(`${value} < ${n}`))),
};

export const above: Operator<number> = {
  op: "above",
  asks: "number",
  label: "is more than",
  types,
  argument: amount,
  words: (field, argument) => `${field} is more than ${argument}`,
  compile: (argument) => (value) => (value as number) > argument,
  sql: (value, argument) => fragment`${value} > ${argument}::float8`,
  liquid: (value, argument) =>
    saidOf([argument], liquidNumber, ([n]) => there(value, say(`${value} > ${n}`))),
};

export const between: Operator<[number, number]> = {
  op: "between",
  asks: "two numbers",
  label: "is between",
  types,
  argument: pair,
  words: (field, [low, high]) => `${field} is between ${low} and ${high}`,
  compile:
    ([low, high]) =>
    (value) =>
      (value as number) >= low && (value as number) <= high,
  sql: (value, [low, high]) => fragment`${value} between ${low}::float8 and ${high}::float8`,
  liquid: (value, argument) =>
    saidOf(argument, liquidNumber, ([low, high]) =>
      there(value, { all: [say(`${value} >= ${low}`), say(`${value} <= ${high}`)] }),
    ),
};
