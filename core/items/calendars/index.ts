/** Reading and writing calendars: by themselves, since what reads them is large. */
export { type ReadCalendar, readCalendar } from "./read.ts";
export { writeEvent } from "./write.ts";
