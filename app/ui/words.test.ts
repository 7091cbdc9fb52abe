import { expect, it } from "vitest";
import { ago, count, lasting, people, percent } from "./words.ts";

it("writes counts and shares as they are read", () => {
  expect(count(12345)).toBe("12,345");
  expect(people(1)).toBe("1 person");
  expect(percent(1, 3)).toBe("33 %");
  expect(percent(1, 30)).toBe("3.3 %");
  expect(percent(0, 30)).toBe("0 %");
  expect(percent(1, 0)).toBe("–");
});

it("says how long ago something was, by the day in the zone", () => {
  const now = new Date("2026-03-02T10:00:00Z");
  const before = (minutes: number) =>
    ago(new Date(now.getTime() - minutes * 60_000), now, "Europe/London");
  expect(before(0)).toBe("just now");
  expect(before(12)).toBe("12 minutes ago");
  expect(before(120)).toBe("today at 8:00");
  expect(before(11 * 60)).toBe("yesterday");
  expect(before(5 * 24 * 60)).toBe("25 February");
  expect(before(90 * 24 * 60)).toBe("2 December 2025");
});

it("says how long something takes, roughly", () => {
  expect([1, 49, 50, 89, 91, 240, 5_390, 7_000, 36_000].map(lasting)).toEqual([
    "less than a minute",
    "less than a minute",
    "about a minute",
    "about a minute",
    "about 2 minutes",
    "about 4 minutes",
    "about 2 hours",
    "about 2 hours",
    "about 10 hours",
  ]);
});
