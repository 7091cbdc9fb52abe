export * from "./guess.ts";
export * from "./options.ts";
export * from "./read-row.ts";
export * from "./sniff.ts";
