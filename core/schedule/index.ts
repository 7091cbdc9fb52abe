/** When things happen. */
export { type LocalTime, readLocalTime } from "./local-time.ts";
