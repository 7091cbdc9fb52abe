export * from "./codes.ts";
