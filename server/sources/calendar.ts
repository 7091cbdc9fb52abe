/** Calendars on the web. */
import { readCalendar } from "#core/items/calendars/index.ts";
import { LIMITS } from "#core/limits.ts";
import type { SourceKind } from "./source.ts";

export const calendar: SourceKind = {
  kind: "calendar",
  accept: "text/calendar, */*;q=0.5",
  every: LIMITS.feedEvery,
  read({ bytes, contentType, address }, { now, zone }) {
    const { title, items } = readCalendar(bytes, { contentType, now, zone });
    return { title, home: new URL("/", address).href, items, whole: true };
  },
};
