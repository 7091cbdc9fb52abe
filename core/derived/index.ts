export * from "./derived.ts";
export * from "./formula.ts";
