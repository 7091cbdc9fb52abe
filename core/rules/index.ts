export * from "./fragment.ts";
export * from "./kept.ts";
export type { Asks, NameOf, Operator } from "./operator.ts";
export { OPERATORS, OPERATORS_BY_TYPE, operatorOf } from "./operators/index.ts";
export type { Near } from "./operators/other.ts";
export * from "./rule.ts";
export { gone } from "./term.ts";
export { type ActivityTest, DEEDS, type DeedName, didOnce } from "./terms/activity.ts";
export { type FieldTest, keySql } from "./terms/field.ts";
export {
  isCircle,
  type ListTest,
  listsNamed,
  type SegmentTest,
  segmentsNamed,
} from "./terms/membership.ts";
export * from "./world.ts";
