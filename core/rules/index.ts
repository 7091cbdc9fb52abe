export * from "./fields.ts";
export * from "./fold.ts";
export * from "./fragment.ts";
export type { Now, Operator } from "./operator.ts";
export { operatorOf, operatorsFor } from "./operators/index.ts";
export * from "./rule.ts";
