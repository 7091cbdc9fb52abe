export * from "./file.ts";
export { fileJsonSchema } from "./schema.ts";
