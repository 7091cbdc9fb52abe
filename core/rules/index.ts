export * from "./fields.ts";
export * from "./fold.ts";
export * from "./fragment.ts";
export type { Now, Operator } from "./operator.ts";
export { OPERATORS_BY_TYPE, operatorOf } from "./operators/index.ts";
export * from "./rule.ts";
