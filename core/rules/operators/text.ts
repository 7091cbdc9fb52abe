import { z } from "zod";
import { fold } from "../fold.ts";
import { fragment } from "../fragment.ts";
import type { Operator } from "../operator.ts";

const words = z.string().trim().min(1, "Write what to compare with.").max(200);

export const is: Operator<string> = {
  op: "is",
  label: "is",
  types: ["text", "choice"],
  argument: words,
  words: (field, argument) => `${field} is “${argument}”`,
  test: (value, argument) => value !== null && value === fold(argument),
  sql: (value, argument) => fragment`(${value}) = ${fold(argument)}::text collate "C"`,
};

export const isNot: Operator<string> = {
  op: "isNot",
  label: "is something other than",
  types: ["text", "choice"],
  argument: words,
  words: (field, argument) => `${field} is something other than “${argument}”`,
  test: (value, argument) => value !== null && value !== fold(argument),
  sql: (value, argument) => fragment`(${value}) <> ${fold(argument)}::text collate "C"`,
};

export const contains: Operator<string> = {
  op: "contains",
  label: "contains",
  types: ["text"],
  argument: words,
  words: (field, argument) => `${field} contains “${argument}”`,
  test: (value, argument) => value !== null && String(value).includes(fold(argument)),
  sql: (value, argument) => fragment`position(${fold(argument)}::text in (${value})) > 0`,
};

export const begins: Operator<string> = {
  op: "begins",
  label: "begins with",
  types: ["text"],
  argument: words,
  words: (field, argument) => `${field} begins with “${argument}”`,
  test: (value, argument) => value !== null && String(value).startsWith(fold(argument)),
  sql: (value, argument) => fragment`starts_with((${value}), ${fold(argument)}::text)`,
};

export const among: Operator<string[]> = {
  op: "among",
  label: "is one of",
  types: ["text", "choice"],
  argument: z.array(words).min(1, "Write at least one value.").max(100),
  words: (field, argument) => `${field} is ${argument.map((a) => `“${a}”`).join(" or ")}`,
  test: (value, argument) => value !== null && argument.some((a) => fold(a) === value),
  sql: (value, argument) =>
    fragment`(${value}) = any (array(select jsonb_array_elements_text(${JSON.stringify(argument.map(fold))}::jsonb)) collate "C")`,
};
