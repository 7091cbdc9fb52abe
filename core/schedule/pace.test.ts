import fc from "fast-check";
import { DateTime } from "luxon";
import { describe, expect, it } from "vitest";
import { AT_ONCE, hoursOf, ownMoment, paceSchema, spreadOf, startOf } from "./pace.ts";

const zones = fc.constantFrom(
  "UTC",
  "Europe/London",
  "America/New_York",
  "Australia/Lord_Howe",
  "Pacific/Kiritimati",
  "Pacific/Apia",
  "America/Sao_Paulo",
  "Asia/Kathmandu",
  "Africa/Casablanca",
);
const moments = fc
  .date({ min: new Date("2011-01-01"), max: new Date("2034-12-31"), noInvalidDate: true })
  .map((at) => DateTime.fromJSDate(at, { zone: "utc" }));
const times = moments.map((at) => ({ date: at.toISODate()!, time: at.toFormat("HH:mm") }));

describe("the moment at a reader's own clock", () => {
  it("is never early, and at most a leap late", () => {
    fc.assert(
      fc.property(times, zones, (own, zone) => {
        const at = DateTime.fromJSDate(ownMoment(own, zone)!, { zone });
        const shown = at.toFormat("yyyy-MM-dd HH:mm");
        const wanted = `${own.date} ${own.time}`;
        expect(shown >= wanted).toBe(true);
        // A minute before, clocks showed less: it is the first moment that shows it or more.
        const before = at.minus({ minutes: 1 }).toFormat("yyyy-MM-dd HH:mm");
        expect(before < wanted).toBe(true);
      }),
      { numRuns: 400 },
    );
  });
  it("is the end of a leap, the first of two, and nothing in no zone", () => {
    const spring = { date: "2031-03-30", time: "01:30" };
    expect(ownMoment(spring, "Europe/London")!.toISOString()).toBe("2031-03-30T01:00:00.000Z");
    const autumn = { date: "2031-10-26", time: "01:30" };
    expect(ownMoment(autumn, "Europe/London")!.toISOString()).toBe("2031-10-26T00:30:00.000Z");
    expect(ownMoment(spring, "Moon/Base")).toBeNull();
    expect(ownMoment({ date: "2031-02-30", time: "09:00" }, "UTC")).toBeNull();
  });
});

it("a launch begins where its day begins first, and never before it was set", () => {
  const own = { date: "2031-06-02", time: "09:00" };
  const sendAt = new Date("2031-06-02T08:00:00Z");
  const now = new Date("2031-05-01T00:00:00Z");
  const pace = { own, best: null };
  expect(startOf(sendAt, pace, now).toISOString()).toBe("2031-06-01T19:00:00.000Z");
  const late = new Date("2031-06-02T01:00:00Z");
  expect(startOf(sendAt, pace, late)).toEqual(late);
  expect(startOf(sendAt, AT_ONCE, now)).toBe(sendAt);
});

it("waves are as many as are needed", () => {
  const last = (readers: number, perHour: number | null) => hoursOf(readers, { perHour });
  expect([last(0, 10), last(1, 10), last(10, 10), last(11, 10), last(100, null)]).toEqual([
    0, 0, 0, 1, 0,
  ]);
});

it("tells over which time readers get it, and whose clocks have passed it", () => {
  const own = { date: "2031-06-02", time: "09:00" };
  const counts = [
    { zone: "Europe/London", people: 10 },
    { zone: "America/New_York", people: 5 },
    { zone: "Pacific/Auckland", people: 3 },
    { zone: null, people: 2 },
    { zone: "Moon/Base", people: 1 },
    { zone: "Asia/Tokyo", people: 0 },
  ];
  const early = spreadOf(own, "Europe/London", counts, new Date("2031-05-01T00:00:00Z"))!;
  // Who has no clock, or one that is nowhere, gets it by the campaign's.
  expect(early).toMatchObject({ past: 0, zones: 3 });
  expect([early.first, early.last].map((at) => at.toISOString())).toEqual([
    "2031-06-01T21:00:00.000Z",
    "2031-06-02T13:00:00.000Z",
  ]);
  const late = spreadOf(own, "Europe/London", counts, new Date("2031-06-02T01:00:00Z"))!;
  expect(late.past).toBe(3);
  expect(late.first.toISOString()).toBe("2031-06-02T01:00:00.000Z");
  expect(spreadOf(own, "Europe/London", [], new Date())).toBeNull();
});

it("takes waves of a size there can be", () => {
  const of = (perHour: unknown) => paceSchema.safeParse({ own: null, perHour }).success;
  expect([of(null), of(1), of(5_000)]).toEqual([true, true, true]);
  expect([of(0), of(1.5), of(-1), of(1e9), of("5")]).toEqual([false, false, false, false, false]);
});
