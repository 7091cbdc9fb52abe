import { describe, expect, it } from "vitest";
import { readDate } from "./types/date.ts";
import { place } from "./types/place.ts";

const NOW = Date.UTC(2026, 10, 28);

describe("a date", () => {
  it.each([
    ["2026-03-04", "2026-03-04"],
    [" 2026-03-04 ", "2026-03-04"],
    ["2026-03-04T09:30:00Z", "2026-03-04"],
    ["2026-02-30", null],
    ["2026-02-30T09:30", null],
  ])("is read from %j whatever the order", (text, iso) => {
    for (const order of ["dmy", "mdy", "ymd"] as const)
      expect(readDate(text, order, NOW)).toBe(iso);
  });
  it("is read in the order that was chosen", () => {
    expect(readDate("3/4/2026", "dmy", NOW)).toBe("2026-04-03");
    expect(readDate("3/4/2026", "mdy", NOW)).toBe("2026-03-04");
    expect(readDate("3/4/2026", "ymd", NOW)).toBeNull();
    expect(readDate("2026/4/3", "dmy", NOW)).toBe("2026-04-03");
  });
});

describe("a place", () => {
  const read = (text: string) => place.parse(text, {} as never, {} as never);
  it.each([
    ["52.5, 13.4", { lat: 52.5, lon: 13.4, name: "" }],
    ["-90; 180", { lat: -90, lon: 180, name: "" }],
    ["The gate (52.5, 13.4)", { lat: 52.5, lon: 13.4, name: "The gate" }],
    [" ", null],
  ])("is read from %j, and written so that it is read again", (text, value) => {
    expect(read(text)).toEqual({ value });
    if (value) expect(read(place.write(value, {} as never))).toEqual({ value });
  });
  it.each(["91, 0", "0, 181", "-91, 0", "The gate", "52.5"])("is none in %j", (text) => {
    expect(read(text)).toMatchObject({ problem: expect.stringContaining("is not a place") });
  });
});
