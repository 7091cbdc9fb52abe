/** A calendar of walks and workshops that ships with the application: always some weeks ahead of its own time. */
import type { StandIn, StandInAnswer } from "../fetching/fetcher.ts";
import { WALKS } from "./articles.ts";

const DAY = 86_400_000;
export const CALENDAR_HOST = "calendar.larkmoor.example";
const HOME = `https://${CALENDAR_HOST}/`;
export const CALENDAR_ADDRESS = `${HOME}walks.ics`;
const SITES = ["Larkmoor Hill", "Saltmere Walled Garden"] as const;
const HOURS = [10, 14, 18, 9, 11] as const;
/** Days between two events, and how many of those to come are announced. */
const EVERY = 4;
const ANNOUNCED = 24;
const PAST = 6;

const pad = (n: number) => String(n).padStart(2, "0");
const escaped = (text: string) => text.replace(/([\\;,])/g, "\\$1").replace(/\n/g, "\\n");
/** Lines are folded after so many octets (RFC 5545, 3.1); these are of ASCII and a few marks. */
const folded = (line: string) => line.match(/.{1,60}/gu)!.join("\r\n ");

function eventLines(number: number): string[] {
  const walk = WALKS[number % WALKS.length]!;
  const site = SITES[number % SITES.length]!;
  const day = new Date(number * EVERY * DAY);
  const hour = HOURS[number % HOURS.length]!;
  const stamp = `${day.getUTCFullYear()}${pad(day.getUTCMonth() + 1)}${pad(day.getUTCDate())}`;
  return [
    "BEGIN:VEVENT",
    `UID:${number}@${CALENDAR_HOST}`,
    `DTSTAMP:${stamp}T000000Z`,
    `DTSTART;TZID=Europe/London:${stamp}T${pad(hour)}0000`,
    "DURATION:PT2H",
    `SUMMARY:${escaped(walk.title)}`,
    `DESCRIPTION:${escaped(walk.summary)}`,
    `LOCATION:${escaped(site)}`,
    `CATEGORIES:${escaped(walk.category)}`,
    `URL:${HOME}${number}`,
    `IMAGE;VALUE=URI;FMTTYPE=image/png:https://walks.larkmoor.example/pictures/${number % 1000}.png`,
    "END:VEVENT",
  ];
}

function calendarAt(now: Date): string {
  const next = Math.ceil(now.getTime() / (EVERY * DAY));
  const events = Array.from({ length: PAST + ANNOUNCED }, (_, i) => eventLines(next - PAST + i));
  const lines = [
    "BEGIN:VCALENDAR",
    "VERSION:2.0",
    "PRODID:-//Larkmoor Botanic Garden//Walks//EN",
    "X-WR-CALNAME:Walks and workshops calendar",
    ...events.flat(),
    "END:VCALENDAR",
  ];
  return `${lines.map(folded).join("\r\n")}\r\n`;
}

function answer(path: string, now: Date): StandInAnswer | null {
  if (path === "/walks.ics") {
    return { contentType: "text/calendar; charset=utf-8", body: calendarAt(now) };
  }
  const number = /^\/(\d{1,9})$/.exec(path)?.[1];
  if (!number) return null;
  const { title } = WALKS[Number(number) % WALKS.length]!;
  return {
    contentType: "text/html; charset=utf-8",
    body: `<!doctype html><html lang="en"><head><title>${title}</title></head><body><h1>${title}</h1></body></html>`,
  };
}

/** The calendar by its host; `now` is its own time. */
export const calendarStandIn = (now: () => Promise<Date>): readonly [string, StandIn] => [
  CALENDAR_HOST,
  async (address) => answer(address.pathname, await now()),
];
