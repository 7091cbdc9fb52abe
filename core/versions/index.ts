export * from "./parts.ts";
export * from "./versions.ts";
