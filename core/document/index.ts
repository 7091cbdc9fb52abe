export * from "./edits/index.ts";
export * from "./edits/merge.ts";
export * from "./envelope.ts";
export * from "./lookup.ts";
export { migrateEdit, migrateTree } from "./migrations/index.ts";
export * from "./model.ts";
