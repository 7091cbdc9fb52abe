export * from "./prepare.ts";
export * from "./values.ts";
