export { split } from "../kinds/widths.ts";
export { columnWidths } from "./band.ts";
export * from "./compile.ts";
export * from "./conditions.ts";
export { CALENDAR_FILE, itemSays, saidTag, type Telling } from "./filled.ts";
export * from "./hand-text.ts";
export * from "./pairs.ts";
export * from "./through.ts";
