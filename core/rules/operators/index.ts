/** The list of operators. A new one is an object in a file beside this one and a line here. */
import { FIELD_TYPES, type FieldType } from "../../fields/index.ts";
import type { Operator } from "../operator.ts";
import * as date from "./date.ts";
import { ends } from "./ends.ts";
import * as number from "./number.ts";
import * as other from "./other.ts";
import * as presence from "./presence.ts";
import * as text from "./text.ts";

// biome-ignore lint/suspicious/noExplicitAny: each operator's argument has its own type, kept by its schema
export const OPERATORS: readonly Operator<any>[] = [
  text.is,
  text.isNot,
  text.contains,
  text.lacksText,
  text.begins,
  ends,
  text.among,
  text.includes,
  text.includesAll,
  text.includesNone,
  number.equals,
  number.differs,
  number.below,
  number.above,
  number.between,
  date.on,
  date.before,
  date.after,
  date.betweenDays,
  date.withinLast,
  date.withinNext,
  date.longerAgo,
  date.anniversaryWithin,
  other.yes,
  other.no,
  other.within,
  other.isRecord,
  other.isOtherRecord,
  presence.hasValue,
  presence.noValue,
];

const byOp = new Map(OPERATORS.map((operator) => [operator.op, operator]));
export const operatorOf = (op: string): Operator | null => byOp.get(op) ?? null;

/** What a field of each type can be compared by. */
export const OPERATORS_BY_TYPE = Object.fromEntries(
  FIELD_TYPES.map((type) => [type, OPERATORS.filter(({ types }) => types.includes(type))]),
) as unknown as Record<FieldType, readonly Operator[]>;
