/** The list of operators. A new one is an object in a file beside this one and a line here. */
import type { FieldType } from "../fields.ts";
import type { Operator } from "../operator.ts";
import * as date from "./date.ts";
import * as number from "./number.ts";
import * as presence from "./presence.ts";
import * as text from "./text.ts";

// biome-ignore lint/suspicious/noExplicitAny: each operator's argument has its own type, kept by its schema
export const OPERATORS: readonly Operator<any>[] = [
  text.is,
  text.isNot,
  text.contains,
  text.begins,
  text.among,
  number.equals,
  number.below,
  number.above,
  number.between,
  date.on,
  date.before,
  date.after,
  date.withinLast,
  date.withinNext,
  presence.hasValue,
  presence.noValue,
];

const byOp = new Map(OPERATORS.map((operator) => [operator.op, operator]));
export const operatorOf = (op: string): Operator | null => byOp.get(op) ?? null;
const operatorsFor = (type: FieldType): readonly Operator[] =>
  OPERATORS.filter((operator) => operator.types.includes(type));

/** What a field of each type can be compared by. */
export const OPERATORS_BY_TYPE: Record<FieldType, readonly Operator[]> = {
  text: operatorsFor("text"),
  number: operatorsFor("number"),
  date: operatorsFor("date"),
  choice: operatorsFor("choice"),
};
