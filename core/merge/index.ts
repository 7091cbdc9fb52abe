export * from "./address.ts";
export * from "./prepare.ts";
export * from "./values.ts";
