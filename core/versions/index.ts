export { smallestSet } from "./cover.ts";
export { forOthers } from "./others.ts";
export * from "./parts.ts";
export { stateReader } from "./state.ts";
export * from "./versions.ts";
