import { z } from "zod";
import { fold } from "../../fields/fold.ts";
import { fragment } from "../fragment.ts";
import type { Operator } from "../operator.ts";
import { liquidText, type Said, saidOf, say, there } from "../said.ts";

const words = z.string().trim().min(1, "Write what to compare with.").max(200);
const several = z.array(words).min(1, "Write at least one value.").max(100);
const either = (values: readonly string[]) => values.map((a) => `“${a}”`).join(" or ");

export const is: Operator<string> = {
  op: "is",
  asks: "words",
  label: "is",
  types: ["text", "choice", "web", "zone"],
  argument: words,
  words: (field, argument) => `${field} is “${argument}”`,
  compile(argument) {
    const wanted = fold(argument);
    return (value) => value === wanted;
  },
  sql: (value, argument) => fragment`${value} = ${fold(argument)}::text`,
  liquid: (value, argument) =>
    saidOf([fold(argument)], liquidText, ([wanted]) => say(`${value} == ${wanted}`)),
};

export const isNot: Operator<string> = {
  op: "isNot",
  asks: "words",
  label: "is something other than",
  types: ["text", "choice", "web", "zone"],
  argument: words,
  words: (field, argument) => `${field} is something other than “${argument}”`,
  compile(argument) {
    const wanted = fold(argument);
    return (value) => value !== wanted;
  },
  sql: (value, argument) => fragment`${value} <> ${fold(argument)}::text`,
  liquid: (value, argument) =>
    saidOf([fold(argument)], liquidText, ([wanted]) => there(value, say(`${value} != ${wanted}`))),
};

export const contains: Operator<string> = {
  op: "contains",
  asks: "words",
  label: "contains",
  types: ["text", "web"],
  argument: words,
  words: (field, argument) => `${field} contains “${argument}”`,
  compile(argument) {
    const wanted = fold(argument);
    return (value) => (value as string).includes(wanted);
  },
  sql: (value, argument) => fragment`position(${fold(argument)}::text in ${value}) > 0`,
  liquid: (value, argument) =>
    saidOf([fold(argument)], liquidText, ([wanted]) => say(`${value} contains ${wanted}`)),
};

export const lacksText: Operator<string> = {
  op: "lacksText",
  asks: "words",
  label: "does not contain",
  types: ["text", "web"],
  argument: words,
  words: (field, argument) => `${field} does not contain “${argument}”`,
  compile(argument) {
    const wanted = fold(argument);
    return (value) => !(value as string).includes(wanted);
  },
  sql: (value, argument) => fragment`position(${fold(argument)}::text in ${value}) = 0`,
  liquid: (value, argument) =>
    saidOf([fold(argument)], liquidText, ([wanted]) =>
      there(value, { none: [say(`${value} contains ${wanted}`)] }),
    ),
};

export const begins: Operator<string> = {
  op: "begins",
  asks: "words",
  label: "begins with",
  types: ["text", "web", "zone"],
  argument: words,
  words: (field, argument) => `${field} begins with “${argument}”`,
  compile(argument) {
    const wanted = fold(argument);
    return (value) => (value as string).startsWith(wanted);
  },
  sql: (value, argument) => fragment`starts_with(${value}, ${fold(argument)}::text)`,
};

export const among: Operator<string[]> = {
  op: "among",
  asks: "several words",
  label: "is one of",
  types: ["text", "choice", "web", "zone"],
  argument: several,
  words: (field, argument) => `${field} is ${either(argument)}`,
  compile(argument) {
    const wanted = new Set<unknown>(argument.map(fold));
    return (value) => wanted.has(value);
  },
  sql: (value, argument) => fragment`${value} = any (${argument.map(fold)}::text[])`,
  liquid: (value, argument) =>
    saidOf(argument.map(fold), liquidText, (wanted) => ({
      any: wanted.map((one) => say(`${value} == ${one}`)),
    })),
};

const containing = (value: string, wanted: readonly string[]): Said[] =>
  wanted.map((one) => say(`${value} contains ${one}`));

/** Of a field that holds several choices. */
export const includes: Operator<string[]> = {
  op: "includes",
  asks: "several words",
  label: "includes any of",
  types: ["choices"],
  argument: several,
  words: (field, argument) => `${field} includes ${either(argument)}`,
  compile(argument) {
    const wanted = new Set<string>(argument.map(fold));
    return (value) => (value as readonly string[]).some((one) => wanted.has(one));
  },
  sql: (value, argument) => fragment`${value} && ${argument.map(fold)}::text[]`,
  liquid: (value, argument) =>
    saidOf(argument.map(fold), liquidText, (wanted) => ({ any: containing(value, wanted) })),
};

export const includesAll: Operator<string[]> = {
  op: "includesAll",
  asks: "several words",
  label: "includes all of",
  types: ["choices"],
  argument: several,
  words: (field, argument) =>
    `${field} includes ${argument.map((one) => `“${one}”`).join(" and ")}`,
  compile(argument) {
    const wanted = argument.map(fold);
    return (value) => wanted.every((one) => (value as readonly string[]).includes(one));
  },
  sql: (value, argument) => fragment`${value} @> ${argument.map(fold)}::text[]`,
  liquid: (value, argument) =>
    saidOf(argument.map(fold), liquidText, (wanted) => ({ all: containing(value, wanted) })),
};

export const includesNone: Operator<string[]> = {
  op: "includesNone",
  asks: "several words",
  label: "includes none of",
  types: ["choices"],
  argument: several,
  words: (field, argument) =>
    `${field} includes neither ${argument.map((one) => `“${one}”`).join(" nor ")}`,
  compile(argument) {
    const wanted = new Set<string>(argument.map(fold));
    return (value) => !(value as readonly string[]).some((one) => wanted.has(one));
  },
  sql: (value, argument) => fragment`not (${value} && ${argument.map(fold)}::text[])`,
  liquid: (value, argument) =>
    saidOf(argument.map(fold), liquidText, (wanted) =>
      there(value, { none: containing(value, wanted) }),
    ),
};
