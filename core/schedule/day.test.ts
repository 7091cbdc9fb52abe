import fc from "fast-check";
import { expect, it } from "vitest";
import { clockTimeOf, dayInWords, isoDayOf, writtenDay } from "./day.ts";

it("reads days as people write them, and none that does not exist", () => {
  for (const text of [
    "2031-03-30",
    " 2031-3-30 ",
    "30/3/2031",
    "30.03.31",
    " 30-3-2031 ",
    "30 3 31",
  ]) {
    expect(isoDayOf(text)).toBe("2031-03-30");
  }
  expect(isoDayOf("29/2/2028")).toBe("2028-02-29");
  for (const text of [
    "",
    "29/2/2027",
    "31/4/2031",
    "3/30/2031",
    "tomorrow",
    "30/3",
    "1/1/031",
    "x2031-03-30",
  ]) {
    expect(isoDayOf(text)).toBeNull();
  }
});

it("writes a day and reads it back", () => {
  const days = fc.date({
    min: new Date("2000-01-01"),
    max: new Date("2099-12-31"),
    noInvalidDate: true,
  });
  fc.assert(
    fc.property(days, (date) => {
      const iso = date.toISOString().slice(0, 10);
      expect(isoDayOf(writtenDay(iso))).toBe(iso);
    }),
  );
  expect(writtenDay("2031-03-05")).toBe("05/03/2031");
  expect(writtenDay("soon")).toBe("soon");
});

it("says a day in words with its year, in two languages", () => {
  expect(dayInWords("2031-03-30", "en-GB")).toMatch(/^Sunday,? 30 March 2031$/);
  expect(dayInWords("30/3/2031", "fr")).toBe("dimanche 30 mars 2031");
  expect(dayInWords("30/13/2031", "fr")).toBeNull();
});

it("reads times by the clock of 24 hours", () => {
  const written = ["9", "9:05", "09:05", "9.05", "9h05", "23:59", "0:00", "1430"].map(clockTimeOf);
  expect(written).toEqual(["09:00", "09:05", "09:05", "09:05", "09:05", "23:59", "00:00", "14:30"]);
  expect(["", "24:00", "9:60", "9 am", "-1"].map(clockTimeOf)).toEqual([
    null,
    null,
    null,
    null,
    null,
  ]);
});
