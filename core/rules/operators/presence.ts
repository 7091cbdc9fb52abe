import { z } from "zod";
import { fragment } from "../fragment.ts";
import type { Operator } from "../operator.ts";

const all = ["text", "number", "date", "choice"] as const;

export const hasValue: Operator<null> = {
  op: "hasValue",
  label: "has a value",
  types: all,
  argument: z.null(),
  words: (field) => `${field} has a value`,
  test: (value) => value !== null,
  sql: (value) => fragment`(${value}) is not null`,
};

export const noValue: Operator<null> = {
  op: "noValue",
  label: "has no value",
  types: all,
  argument: z.null(),
  words: (field) => `${field} has no value`,
  test: (value) => value === null,
  sql: (value) => fragment`(${value}) is null`,
};
