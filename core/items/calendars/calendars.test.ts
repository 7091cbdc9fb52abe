/** Calendars as they are found, each beside what is to be read from it; and ours, read back by a calendar library. */
import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import fc from "fast-check";
import ICAL from "ical.js";
import { describe, expect, it } from "vitest";
import { LIMITS } from "../../limits.ts";
import { anItem } from "../../testing/items.ts";
import { FeedError } from "../feeds/index.ts";
import { readCalendar, writeEvent } from "./index.ts";

const FOLDER = join(import.meta.dirname, "../../../fixtures/calendars");
const names = readdirSync(FOLDER).filter((name) => name.endsWith(".ics"));
const AT = { now: new Date("2026-05-01T00:00:00Z"), zone: "Europe/London" };

function told(bytes: Uint8Array) {
  try {
    const { items, ...calendar } = readCalendar(bytes, AT);
    // Of many, how many there are, the first and the last.
    const shown = items.length > 4 ? [items[0], items.at(-1)] : items;
    return JSON.parse(JSON.stringify({ ...calendar, count: items.length, items: shown }));
  } catch (error) {
    if (!(error instanceof FeedError)) throw error;
    return { problem: error.message };
  }
}

describe("a calendar", () => {
  it.each(names)("%s is read as expected", (name) => {
    const expected = join(FOLDER, name.replace(/\.ics$/, ".expected.json"));
    const found = told(readFileSync(join(FOLDER, name)));
    if (process.env.ACCEPT) writeFileSync(expected, `${JSON.stringify(found, null, 2)}\n`);
    expect(existsSync(expected)).toBe(true);
    expect(found).toEqual(JSON.parse(readFileSync(expected, "utf8")));
  });

  it("comes to an end, however many of its events never do", () => {
    const event = (n: number) =>
      `BEGIN:VEVENT\r\nUID:${n}\r\nDTSTART:19700101T000000Z\r\nRRULE:FREQ=MINUTELY\r\nSUMMARY:x\r\nEND:VEVENT\r\n`;
    const many = Array.from({ length: 300 }, (_, n) => event(n)).join("");
    const found = told(Buffer.from(`BEGIN:VCALENDAR\r\n${many}END:VCALENDAR\r\n`));
    expect(found).toMatchObject({ count: 0, leftOut: 300 });
  });

  it("keeps the next events of many", () => {
    const event = (n: number) =>
      `BEGIN:VEVENT\r\nUID:${n}\r\nDTSTART:${new Date(AT.now.getTime() + n * 60_000).toISOString().replace(/[-:]|\.\d+/g, "")}\r\nSUMMARY:${n}\r\nEND:VEVENT\r\n`;
    const many = Array.from({ length: LIMITS.itemsPerCalendar + 5 }, (_, n) => event(n)).join("");
    const found = readCalendar(Buffer.from(`BEGIN:VCALENDAR\r\n${many}END:VCALENDAR\r\n`), AT);
    expect(found.items).toHaveLength(LIMITS.itemsPerCalendar);
    expect(found.items[0]!.title).toBe("0");
  });

  it("loses only what cannot be read where a time or a name is no such thing", () => {
    const written = (...lines: string[]) =>
      Buffer.from(["BEGIN:VCALENDAR", "VERSION:2.0", ...lines, "END:VCALENDAR"].join("\r\n"));
    const event = (uid: string, ...more: string[]) => [
      ...["BEGIN:VEVENT", `UID:${uid}`, "DTSTART:20260506T100000Z", "SUMMARY:A walk"],
      ...[...more, "END:VEVENT"],
    ];
    const found = readCalendar(
      written(
        "X-WR-CALNAME;VALUE=DATE-TIME:!0",
        ...["BEGIN:VTIMEZONE", "TZID;VALUE=DATE-TIME:!0", "END:VTIMEZONE"],
        ...event("a", "RRULE:FREQ=WEEKLY;COUNT=2"),
        ...event("a", "RECURRENCE-ID:!0"),
        ...event("b", "LOCATION;VALUE=DATE-TIME:!0"),
      ),
      AT,
    );
    expect(found).toMatchObject({ title: "", leftOut: 1 });
    expect(found.items.map(({ key }) => key.split(" ")[0])).toEqual(["a", "b", "a"]);
  });

  it("is read or refused in words, whatever was damaged", () => {
    const texts = names.map((name) => readFileSync(join(FOLDER, name)));
    fc.assert(
      fc.property(
        fc.constantFrom(...texts),
        fc.array(fc.tuple(fc.nat(), fc.nat(255)), { maxLength: 6 }),
        (bytes, hits) => {
          const damaged = Buffer.from(bytes);
          for (const [at, byte] of hits) damaged[at % damaged.length] = byte;
          expect(told(damaged)).toBeTruthy();
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe("an event of ours", () => {
  const NOW = new Date("2026-05-01T00:00:00Z");
  const back = (item: ReturnType<typeof anItem>) => {
    const text = writeEvent(item, "mail.example.org", NOW);
    expect(text.split("\r\n").every((one) => Buffer.byteLength(one) <= 75)).toBe(true);
    const calendar = new ICAL.Component(ICAL.parse(text) as never);
    return new ICAL.Event(calendar.getFirstSubcomponent("vevent")!);
  };

  it("is read back as it is, by a library and by ourselves", () => {
    const item = anItem({
      ...{ kind: "calendar", source: "walks", key: "7@x", title: "Fungi, by torchlight; late" },
      at: Date.UTC(2026, 6, 4, 17),
      values: {
        ...{ minutes: 120, zone: "Europe/London", place: "Larkmoor Hill" },
        ...{ summary: "Bring a lamp\nand a coat.", link: "https://walks.example/7" },
      },
    });
    const event = back(item);
    expect([event.summary, event.location]).toEqual([item.title, "Larkmoor Hill"]);
    expect(event.startDate.toJSDate().toISOString()).toBe("2026-07-04T17:00:00.000Z");
    expect(event.endDate.toJSDate().toISOString()).toBe("2026-07-04T19:00:00.000Z");
    expect(event.uid).toBe("walks%3A7%40x@mail.example.org");
    const [own] = readCalendar(Buffer.from(writeEvent(item, "x.example", NOW)), AT).items;
    expect(own).toMatchObject({
      title: item.title,
      at: new Date(item.at),
      values: { minutes: 120 },
    });
  });

  it("of whole days ends on the day after its last", () => {
    const days = anItem({
      ...{ kind: "calendar", at: Date.UTC(2026, 6, 3, 23) },
      values: { whole_day: true, minutes: 2_880, zone: "Europe/London" },
    });
    const event = back(days);
    expect([event.startDate.toString(), event.endDate.toString()]).toEqual([
      "2026-07-04",
      "2026-07-06",
    ]);
    const one = back({ ...days, values: { whole_day: true, zone: "Europe/London" } });
    expect([one.startDate.toString(), one.endDate.toString()]).toEqual([
      "2026-07-04",
      "2026-07-05",
    ]);
  });

  it("cannot write other lines into the file", () => {
    const nasty = anItem({ kind: "calendar", title: "X\r\nATTENDEE:mailto:a@x\nEND:VEVENT" });
    const event = back(nasty);
    expect(event.attendees).toEqual([]);
    expect(event.component.getAllProperties("summary")).toHaveLength(1);
  });
});
