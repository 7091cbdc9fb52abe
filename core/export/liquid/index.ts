export type { Variable } from "./contract.ts";
export { type Facts, type LiquidOptions, type LiquidTemplate, toLiquid } from "./template.ts";
