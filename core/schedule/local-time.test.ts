import fc from "fast-check";
import { DateTime } from "luxon";
import { expect, it } from "vitest";
import { readLocalTime } from "./local-time.ts";

it("reads an ordinary time as the moment it is", () => {
  expect(readLocalTime("2026-07-01", "09:00", "Europe/London")).toEqual({
    is: "once",
    at: new Date("2026-07-01T08:00:00Z"),
  });
});

it("tells a time that clocks leap over, with the times on either side", () => {
  const never = { is: "never", before: "00:59", after: "02:00" };
  for (const time of ["01:00", "01:30", "01:59"]) {
    expect(readLocalTime("2026-03-29", time, "Europe/London")).toEqual(never);
  }
  expect(readLocalTime("2026-03-29", "02:00", "Europe/London")).toMatchObject({ is: "once" });
  // Half an hour alone, on an island.
  expect(readLocalTime("2026-10-04", "02:15", "Australia/Lord_Howe")).toEqual({
    is: "never",
    before: "01:59",
    after: "02:30",
  });
});

it("asks which of two moments is meant", () => {
  expect(readLocalTime("2026-10-25", "01:30", "Europe/London")).toEqual({
    is: "twice",
    first: new Date("2026-10-25T00:30:00Z"),
    second: new Date("2026-10-25T01:30:00Z"),
  });
});

it("is nothing where there is no such day or zone", () => {
  expect(readLocalTime("2026-02-30", "09:00", "Europe/London")).toBeNull();
  expect(readLocalTime("2026-02-28", "09:00", "Nowhere/Else")).toBeNull();
});

it("never moves the time that was chosen", () => {
  const zones = ["Europe/London", "America/New_York", "Australia/Lord_Howe", "Asia/Tokyo"];
  const moment = fc.date({
    min: new Date("2020-01-01T00:00:00Z"),
    max: new Date("2035-01-01T00:00:00Z"),
    noInvalidDate: true,
  });
  fc.assert(
    fc.property(moment, fc.constantFrom(...zones), (at, zone) => {
      const local = DateTime.fromJSDate(at, { zone }).startOf("minute");
      const read = readLocalTime(local.toISODate()!, local.toFormat("HH:mm"), zone)!;
      const moments =
        read.is === "once" ? [read.at] : read.is === "twice" ? [read.first, read.second] : [];
      // Every moment there is can be chosen.
      expect(moments.map(Number)).toContain(local.toMillis());
      for (const one of moments) {
        expect(DateTime.fromJSDate(one, { zone }).toFormat("HH:mm")).toBe(local.toFormat("HH:mm"));
      }
    }),
  );
});
