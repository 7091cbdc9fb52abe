export * from "./asking.ts";
export * from "./mentions.ts";
