import fc from "fast-check";
import { DateTime } from "luxon";
import { describe, expect, it } from "vitest";
import { awake, bestHour, hourTime, isQuiet, NO_HOURS } from "./hours.ts";

const NIGHT = { from: 21, to: 7 };
const hours = fc.array(fc.nat(20), { minLength: 24, maxLength: 24 });
const quiet = fc.record({ from: fc.nat(23), to: fc.nat(23) }).filter(({ from, to }) => from !== to);
const at = (...seen: number[]) => {
  const own = [...NO_HOURS];
  for (const hour of seen) own[hour]!++;
  return own;
};

describe("quiet hours", () => {
  it("reach over midnight or not", () => {
    expect([20, 21, 0, 6, 7].map((hour) => isQuiet(hour, NIGHT))).toEqual([
      ...[false, true, true, true, false],
    ]);
    expect([12, 13, 14].map((hour) => isQuiet(hour, { from: 13, to: 14 }))).toEqual([
      ...[false, true, false],
    ]);
  });

  it("put off what falls into them to their end, at the clocks of the zone, and nothing else", () => {
    const zone = fc.constantFrom(
      "Europe/London",
      "Asia/Kathmandu",
      "America/New_York",
      "Pacific/Chatham",
    );
    const moment = fc.date({
      min: new Date("2026-01-01"),
      max: new Date("2027-12-31"),
      noInvalidDate: true,
    });
    fc.assert(
      fc.property(moment, zone, quiet, (when, zone, those) => {
        const moved = awake(when, zone, those);
        const before = DateTime.fromJSDate(when, { zone });
        const after = DateTime.fromJSDate(moved, { zone });
        if (!isQuiet(before.hour, those)) {
          expect(moved).toBe(when);
          return;
        }
        expect(moved > when).toBe(true);
        // In a night that leaps over the hour at which they end, it is the one after it.
        expect([those.to, (those.to + 1) % 24]).toContain(after.hour);
        expect(after.diff(before, "hours").hours).toBeLessThanOrEqual(25);
      }),
    );
    expect(awake(new Date(0), "No/Where", NIGHT)).toEqual(new Date(0));
    expect(awake(new Date(0), "UTC", null)).toEqual(new Date(0));
  });
});

describe("the hour in which somebody reads", () => {
  it("is never a quiet one, whatever they did", () => {
    fc.assert(
      fc.property(hours, hours, quiet, (own, all, those) => {
        expect(isQuiet(bestHour(own, all, those), those)).toBe(false);
      }),
    );
  });

  it("is their own where they have opened much, everybody's where they have opened nothing", () => {
    const all = Array.from({ length: 24 }, (_, hour) => (hour === 18 ? 900 : 20));
    expect(bestHour(NO_HOURS, all, NIGHT)).toBe(18);
    expect(bestHour(at(11, 11, 11, 11, 12, 11, 11), all, NIGHT)).toBe(11);
    // One open alone does not outweigh what all others do.
    expect(bestHour(at(11), all, NIGHT)).toBe(18);
  });

  it("counts the hours beside it: 7:55 and 8:05 are the same habit", () => {
    expect(bestHour(at(7, 8, 8, 7, 14, 14), NO_HOURS, null)).toBeOneOf([7, 8]);
    // Those on both sides of midnight too.
    expect(bestHour(at(23, 23, 0, 12, 12), NO_HOURS, null)).toBe(23);
    expect(bestHour(at(0, 0, 23, 12, 12), NO_HOURS, null)).toBe(0);
  });

  it("is the standard one where nobody has opened anything, or the first after it", () => {
    expect(bestHour(NO_HOURS, NO_HOURS, null)).toBe(9);
    expect(bestHour(NO_HOURS, NO_HOURS, { from: 8, to: 11 })).toBe(11);
    expect(hourTime(9)).toBe("09:00");
  });
});
