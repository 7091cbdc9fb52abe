import { z } from "zod";
import { FIELD_TYPES } from "../../fields/index.ts";
import { fragment } from "../fragment.ts";
import type { Operator } from "../operator.ts";
import { say } from "../said.ts";

export const hasValue: Operator<null> = {
  op: "hasValue",
  asks: "nothing",
  label: "has a value",
  types: FIELD_TYPES,
  argument: z.null(),
  words: (field) => `${field} has a value`,
  compile: () => () => true,
  sql: (value) => fragment`${value} is not null`,
  liquid: (value) => say(`${value} != nil`),
};

export const noValue: Operator<null> = {
  ...hasValue,
  op: "noValue",
  label: "has no value",
  words: (field) => `${field} has no value`,
  oppositeOf: hasValue,
  liquid: (value) => say(`${value} == nil`),
};
