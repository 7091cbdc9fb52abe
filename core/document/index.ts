export { createDraft, type Draft, type Lookup, lookupOf } from "./draft.ts";
export * from "./edits/index.ts";
export * from "./envelope.ts";
export * from "./history.ts";
export * from "./lookup.ts";
export { migrateEdit, migrateTree } from "./migrations/index.ts";
export * from "./model.ts";
export * from "./replica.ts";
