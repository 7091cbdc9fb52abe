export * from "./edits/index.ts";
export * from "./envelope.ts";
export * from "./lookup.ts";
export * from "./model.ts";
