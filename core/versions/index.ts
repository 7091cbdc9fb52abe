export { smallestSet } from "./cover.ts";
export { forOthers } from "./others.ts";
export * from "./parts.ts";
export * from "./versions.ts";
