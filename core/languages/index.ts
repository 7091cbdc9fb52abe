export * from "./languages.ts";
