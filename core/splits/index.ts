export * from "./best.ts";
export * from "./draw.ts";
export * from "./intervals.ts";
export * from "./plan.ts";
