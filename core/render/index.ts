export { columnWidths } from "./band.ts";
export * from "./compile.ts";
export { narrowRules } from "./skeleton.ts";
export { split } from "../kinds/widths.ts";
