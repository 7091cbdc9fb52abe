/** When things happen. */

export * from "./day.ts";
export * from "./hours.ts";
export { type LocalTime, readLocalTime } from "./local-time.ts";
export { nowIn } from "./now.ts";
export * from "./pace.ts";
