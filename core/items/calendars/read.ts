/** Reads calendars (RFC 5545) as they are found. All of it is hostile until it is here. */
import ICAL from "ical.js";
import { DateTime, IANAZone } from "luxon";
import { LIMITS } from "../../limits.ts";
import { dayIn } from "../../schedule/day.ts";
import { trimmed } from "../../words.ts";
import { decodeText } from "../feeds/decode.ts";
import { FeedError } from "../feeds/error.ts";
import { readHtml } from "../feeds/words.ts";
import type { NewItem } from "../item.ts";

export interface ReadCalendar {
  /** What it is called; empty where it does not say. */
  readonly title: string;
  readonly items: readonly NewItem[];
  /** How many of its events cannot be read, or name a zone that nobody knows. */
  readonly leftOut: number;
  readonly unknownZones: readonly string[];
}

/** From how long ago to how far ahead the repetitions of an event are taken, ms; and how many of one. */
const BEFORE = 31 * 86_400_000;
const AHEAD = 400 * 86_400_000;
const REPETITIONS = 150;
/** How many repetitions are counted in all before they come near today: a calendar may hold many that never end. */
const STEPS = 30_000;

interface Reading {
  readonly now: Date;
  /** The zone of times that name none, or one that nobody knows. */
  readonly zone: string;
  readonly unknown: Set<string>;
  /** Zones that the calendar tells itself. */
  readonly zones: ReadonlyMap<string, ICAL.Timezone>;
  steps: number;
}

/** What programs call zones whose names are not those of the IANA database is kept after a path, or in quotes. */
function zoneNamed(tzid: string): string | null {
  const candidates = [
    tzid,
    tzid.replace(/^["'/]+|["']+$/g, ""),
    tzid.split("/").slice(-2).join("/"),
  ];
  return candidates.find((name) => IANAZone.isValidZone(name)) ?? null;
}

/** The zone a time is told in. */
function zoneOf(time: ICAL.Time, property: ICAL.Property | null, reading: Reading): string {
  if (time.zone === ICAL.Timezone.utcTimezone) return "UTC";
  const tzid = property?.getFirstParameter("tzid");
  if (!tzid) return reading.zone;
  const known = zoneNamed(tzid);
  if (!known && !reading.zones.has(tzid)) reading.unknown.add(tzid.slice(0, 80));
  return known ?? reading.zone;
}

/** The zone of the calendar's own making that a time is told in; null where its name is one that everybody knows. */
function ownZone(property: ICAL.Property | null, { zones }: Reading): ICAL.Timezone | null {
  const tzid = property?.getFirstParameter("tzid");
  return tzid && !zoneNamed(tzid) ? (zones.get(tzid) ?? null) : null;
}

/** The moment a time stands for in a zone; one that the clocks skip is the one after. */
function momentOf(time: ICAL.Time, zone: string, own: ICAL.Timezone | null): Date {
  if (own && !time.isDate) {
    const there = time.clone();
    there.zone = own;
    return there.toJSDate();
  }
  const { year, month, day, hour, minute, second } = time;
  const at = time.isDate
    ? DateTime.fromObject({ year, month, day }, { zone })
    : DateTime.fromObject({ year, month, day, hour, minute, second }, { zone });
  return at.toJSDate();
}

/** A text of a component; empty where it says none, or says that it is of another type and cannot be read as that. */
function words(component: ICAL.Component, name: string): string {
  try {
    const value: unknown = component.getFirstPropertyValue(name);
    return typeof value === "string" ? value.trim() : "";
  } catch {
    return "";
  }
}

function webAddress(written: string): string {
  if (!URL.canParse(written)) return "";
  const { protocol, username, href } = new URL(written);
  return /^https?:$/.test(protocol) && !username && href.length <= LIMITS.lineLength ? href : "";
}

/** The address of a picture that comes with an event (RFC 7986, 5.10, and attachments that are pictures). */
function pictureOf(component: ICAL.Component): string {
  const image = component.getFirstProperty("image");
  const attached = component
    .getAllProperties("attach")
    .find((one) => String(one.getFirstParameter("fmttype") ?? "").startsWith("image/"));
  const value: unknown = (image ?? attached)?.getFirstValue();
  return typeof value === "string" ? webAddress(value.trim()) : "";
}

const categoriesOf = (component: ICAL.Component): string[] =>
  [
    ...new Set(
      component
        .getAllProperties("categories")
        .flatMap((one) => one.getValues() as unknown[])
        .map((one) => trimmed(String(one).trim(), LIMITS.nameLength))
        .filter(Boolean),
    ),
  ].slice(0, LIMITS.itemCategories);

/** One time an event takes place. */
function itemOf(
  event: ICAL.Event,
  start: ICAL.Time,
  end: ICAL.Time | null,
  key: string,
  reading: Reading,
): NewItem | null {
  const { component } = event;
  const told = component.getFirstProperty("dtstart");
  const zone = zoneOf(start, told, reading);
  const own = ownZone(told, reading);
  const at = momentOf(start, zone, own);
  if (Number.isNaN(at.getTime())) return null;
  const over = end && momentOf(end, zone, own);
  const minutes = over ? Math.round((over.getTime() - at.getTime()) / 60_000) : 0;
  const title = trimmed(readHtml(words(component, "summary")).words, LIMITS.itemTitle);
  return {
    key: key.slice(0, LIMITS.lineLength),
    title: title || "An event",
    at,
    picture: pictureOf(component),
    values: {
      link: webAddress(words(component, "url")),
      summary: trimmed(readHtml(words(component, "description")).words, LIMITS.itemSummary),
      starts: dayIn(at, zone),
      ...(minutes > 0 && { minutes }),
      ...(start.isDate && { whole_day: true }),
      zone,
      place: trimmed(readHtml(words(component, "location")).words, LIMITS.itemTitle),
      categories: categoriesOf(component),
    },
  };
}

const UNITS: Readonly<Record<string, number>> = { DAILY: 1, WEEKLY: 7 };

/**
 * A time from which an event repeats as it does from its own beginning, nearer to a moment: whole days and weeks of its
 * rule are passed over. Its beginning where there is no such time.
 */
function nearer(event: ICAL.Event, from: number): ICAL.Time {
  const { component, startDate } = event;
  const [rule, ...more] = component.getAllProperties("rrule");
  const recur = rule?.getFirstValue() as ICAL.Recur | undefined;
  const unit = recur && UNITS[recur.freq];
  if (!unit || more.length > 0 || recur.count || component.hasProperty("rdate")) return startDate;
  const days = unit * Math.max(1, recur.interval);
  const ahead = Math.floor((from - startDate.toJSDate().getTime()) / 86_400_000 / days) - 1;
  if (ahead <= 0) return startDate;
  const nearer = startDate.clone();
  nearer.adjust(ahead * days, 0, 0, 0);
  return nearer;
}

/** All times of an event that are near; one that is called off is none. */
function timesOf(event: ICAL.Event, reading: Reading): NewItem[] {
  const { component, uid } = event;
  if (words(component, "status").toUpperCase() === "CANCELLED") return [];
  if (!event.isRecurring()) {
    const own = itemOf(event, event.startDate, event.endDate, uid, reading);
    return own ? [own] : [];
  }
  const [from, to] = [reading.now.getTime() - BEFORE, reading.now.getTime() + AHEAD];
  const found: NewItem[] = [];
  const iterator = event.iterator(nearer(event, from));
  while (found.length < REPETITIONS) {
    if (reading.steps++ >= STEPS) throw new Error("It repeats too often to be followed");
    const next = iterator.next();
    if (!next) break;
    const { item, startDate, endDate } = event.getOccurrenceDetails(next);
    if (words(item.component, "status").toUpperCase() === "CANCELLED") continue;
    const one = itemOf(item, startDate, endDate, `${uid} ${next.toString()}`, reading);
    if (!one?.at) continue;
    if (one.at.getTime() > to) break;
    if (one.at.getTime() >= from) found.push(one);
  }
  return found;
}

/** Events with those that stand for single times of them. */
function eventsOf(calendar: ICAL.Component): { events: ICAL.Event[]; broken: number } {
  const all = calendar.getAllSubcomponents("vevent");
  const events: ICAL.Event[] = [];
  let broken = 0;
  for (const component of all) {
    try {
      const event = new ICAL.Event(component, { strictExceptions: true, exceptions: [] });
      if (!event.startDate) throw new Error("It does not begin");
      // Which of the times it stands for has to be known, too: times are read when they are first asked for.
      if (event.isRecurrenceException() && !event.recurrenceId)
        throw new Error("It stands for none");
      if (!event.uid) event.uid = `${words(component, "summary")} ${event.startDate.toString()}`;
      events.push(event);
    } catch {
      broken++;
    }
  }
  const masters = new Map(
    events.filter((one) => !one.isRecurrenceException()).map((one) => [one.uid, one]),
  );
  const alone: ICAL.Event[] = [];
  for (const event of events) {
    if (!event.isRecurrenceException()) continue;
    const master = masters.get(event.uid);
    if (master?.isRecurring()) master.relateException(event);
    else alone.push(event);
  }
  return { events: [...masters.values(), ...alone], broken };
}

/** A calendar from bytes that came over HTTP. Throws a FeedError with a sentence where they are none. */
export function readCalendar(
  bytes: Uint8Array,
  { contentType = "", now, zone }: { contentType?: string; now: Date; zone: string },
): ReadCalendar {
  const text = decodeText(bytes, contentType);
  if (!/BEGIN:VCALENDAR/i.test(text)) {
    throw new FeedError(
      /^\s*</.test(text) ? "This is a page and not a calendar." : "This is not a calendar (ICS).",
    );
  }
  let parsed: ICAL.Component[];
  try {
    const all: unknown = ICAL.parse(text);
    const list = (Array.isArray(all) && Array.isArray(all[0]) ? all : [all]) as unknown[][];
    parsed = list.map((one) => new ICAL.Component(one as never));
  } catch {
    throw new FeedError("This calendar is broken off, or not written as calendars are.");
  }
  const zones = new Map(
    parsed
      .flatMap((calendar) => calendar.getAllSubcomponents("vtimezone"))
      .filter((one) => words(one, "tzid") !== "")
      .map((one) => [words(one, "tzid"), new ICAL.Timezone(one)]),
  );
  const reading: Reading = { now, zone, unknown: new Set(), zones, steps: 0 };
  const items = new Map<string, NewItem>();
  let leftOut = 0;
  for (const calendar of parsed) {
    const { events, broken } = eventsOf(calendar);
    leftOut += broken;
    for (const event of events) {
      try {
        for (const item of timesOf(event, reading)) items.set(item.key, item);
      } catch {
        leftOut++;
      }
    }
  }
  const kept = [...items.values()]
    .sort((a, b) => a.at!.getTime() - b.at!.getTime() || (a.key < b.key ? -1 : 1))
    .filter(({ at }) => at!.getTime() >= now.getTime() - BEFORE)
    .slice(0, LIMITS.itemsPerCalendar);
  return {
    title: trimmed(
      parsed.map((one) => words(one, "x-wr-calname") || words(one, "name")).find(Boolean) ?? "",
      LIMITS.nameLength,
    ),
    items: kept,
    leftOut,
    unknownZones: [...reading.unknown],
  };
}
