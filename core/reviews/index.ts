export * from "./live.ts";
export * from "./standing.ts";
