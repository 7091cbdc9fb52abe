/** An event as a calendar file (RFC 5545), for readers' own calendars. */
import ICAL from "ical.js";
import { dayIn, shiftedDay } from "../../schedule/day.ts";
import { type LiveItem, refOfItem, said } from "../item.ts";
import { endOf, isWholeDay, zoneOfEvent } from "../kinds/calendar.ts";

const date = (iso: string) => ICAL.Time.fromDateString(iso);
/** A moment in UTC, to the second: every program knows when that is, whatever zones it knows. */
const moment = (at: number) => ICAL.Time.fromJSDate(new Date(at), true);

/** `host` makes the id of the event unique in the world; `now` is when the file is made. */
export function writeEvent(item: LiveItem, host: string, now: Date): string {
  const calendar = new ICAL.Component(["vcalendar", [], []]);
  calendar.updatePropertyWithValue("version", "2.0");
  calendar.updatePropertyWithValue("prodid", "-//Septima//Events//EN");
  calendar.updatePropertyWithValue("method", "PUBLISH");
  const event = new ICAL.Component("vevent");
  event.updatePropertyWithValue("uid", `${encodeURIComponent(refOfItem(item))}@${host}`);
  event.updatePropertyWithValue("dtstamp", moment(now.getTime()));
  event.updatePropertyWithValue("summary", item.title);
  if (isWholeDay(item)) {
    const zone = zoneOfEvent(item);
    event.updatePropertyWithValue("dtstart", date(dayIn(new Date(item.at), zone)));
    // The day after the last one (RFC 5545, 3.6.1).
    const last = dayIn(new Date(endOf(item) - 1), zone);
    event.updatePropertyWithValue("dtend", date(shiftedDay(last, 1)));
  } else {
    event.updatePropertyWithValue("dtstart", moment(item.at));
    event.updatePropertyWithValue("dtend", moment(endOf(item)));
  }
  const told = { description: "summary", location: "place", url: "link" } as const;
  for (const [name, field] of Object.entries(told)) {
    const value = said(item, field);
    if (value) event.updatePropertyWithValue(name, value);
  }
  calendar.addSubcomponent(event);
  return `${calendar.toString()}\r\n`;
}
