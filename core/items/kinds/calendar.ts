/** Events of calendars. */
import { dayIn } from "../../schedule/day.ts";
import type { LiveItem } from "../item.ts";
import type { ItemKind } from "./kind.ts";

const known = (zone: string): string => {
  try {
    return new Intl.DateTimeFormat("en", { timeZone: zone }).resolvedOptions().timeZone;
  } catch {
    return "UTC";
  }
};
/** The zone its times are told in; where nobody knows that zone, UTC. */
export const zoneOfEvent = ({ values }: Pick<LiveItem, "values">): string =>
  typeof values.zone === "string" ? known(values.zone) : "UTC";

const DAY_MS = 86_400_000;
const HOUR_MS = 3_600_000;
export const isWholeDay = ({ values }: Pick<LiveItem, "values">): boolean =>
  values.whole_day === true;

/** When it is over, ms since 1970: after so many minutes, at the end of its day, or within the hour. */
export function endOf(item: Pick<LiveItem, "values" | "at">): number {
  const minutes = item.values.minutes;
  if (typeof minutes === "number") return item.at + minutes * 60_000;
  return item.at + (isWholeDay(item) ? DAY_MS : HOUR_MS);
}

/** A formatter is dear to make, and the same few are asked for again and again. */
const formats = new Map<string, Intl.DateTimeFormat>();
function format(lang: string, zone: string, options: Intl.DateTimeFormatOptions) {
  const key = JSON.stringify([lang, zone, options]);
  let made = formats.get(key);
  if (!made) {
    made = new Intl.DateTimeFormat(lang, { timeZone: zone, ...options });
    formats.set(key, made);
  }
  return made;
}
const DATE = { day: "numeric", month: "long", year: "numeric" } as const;
const TIME = { hour: "2-digit", minute: "2-digit", hourCycle: "h23" } as const;

/** When it is, in words: its day, and from when to when; over several days both. `zone` is whose clock. */
export function whenOf(item: Pick<LiveItem, "values" | "at">, lang: string, zone: string): string {
  const whole = isWholeDay(item);
  const [from, to] = [new Date(item.at), new Date(endOf(item) - (whole ? 1 : 0))];
  // Apart, since versions of the platform's data put other marks between the two.
  const [weekday, date] = [format(lang, zone, { weekday: "long" }), format(lang, zone, DATE)];
  const day = (at: Date) => `${weekday.format(at)} ${date.format(at)}`;
  const sameDay = dayIn(from, zone) === dayIn(to, zone);
  if (whole) return sameDay ? day(from) : `${day(from)} – ${day(to)}`;
  const time = format(lang, zone, TIME);
  const begins = `${day(from)}, ${time.format(from)}`;
  if (typeof item.values.minutes !== "number" || to <= from) return begins;
  return sameDay ? `${begins}–${time.format(to)}` : `${begins} – ${day(to)}, ${time.format(to)}`;
}

/** The field of an event that says when it is by the clock of its reader. */
export const LOCAL_TIME = "local";

/** When an event is by the clock of another zone, with the name of that clock; empty where it shows the same, or nobody knows it. */
export function otherClock(
  event: Pick<LiveItem, "values" | "at">,
  zone: string,
  lang: string,
): string {
  const own = zoneOfEvent(event);
  if (isWholeDay(event) || known(zone) !== zone) return "";
  const there = whenOf(event, lang, zone);
  if (there === whenOf(event, lang, own)) return "";
  const parts = format(lang, zone, { hour: "numeric", timeZoneName: "short" }).formatToParts(
    event.at,
  );
  return `(${there} ${parts.find(({ type }) => type === "timeZoneName")?.value ?? ""})`;
}

export const calendar: ItemKind = {
  kind: "calendar",
  source: "Calendar",
  sources: "Calendars",
  item: "event",
  moment: "Begins",
  fields: [
    { id: "link", label: "Link", type: "web" },
    { id: "summary", label: "About", type: "text" },
    { id: "starts", label: "Day", type: "date" },
    { id: "minutes", label: "Length in minutes", type: "number", format: { decimals: 0 } },
    { id: "whole_day", label: "All day", type: "yesNo" },
    { id: "zone", label: "Time zone", type: "zone" },
    { id: "place", label: "Place", type: "text" },
    { id: "categories", label: "Categories", type: "choices", options: [] },
  ],
  made: [
    {
      id: "when",
      label: "When it is",
      say: (item, lang) => whenOf(item, lang, zoneOfEvent(item)),
    },
    {
      // Written for each reader where their zone is known: see `core/render/filled.ts`.
      id: LOCAL_TIME,
      label: "By the reader’s own clock, where it differs",
      say: () => "",
    },
    {
      id: "day",
      label: "Day of the month",
      say: (item, lang) => format(lang, zoneOfEvent(item), { day: "numeric" }).format(item.at),
    },
    {
      id: "month",
      label: "Month, short",
      say: (item, lang) => format(lang, zoneOfEvent(item), { month: "short" }).format(item.at),
    },
  ],
  ends: endOf,
};
