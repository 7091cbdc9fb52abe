import { describe, expect, it } from "vitest";
import { KIND_LIST, madeUpValues, OWN_READING } from "./index.ts";
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

describe("made-up values", () => {
  it("are of their types, with an address where one is asked for", () => {
    const options = ["Red", "Blue"];
    for (const kind of KIND_LIST) {
      const field = { id: "f", label: "Nearest site", type: kind.type, options };
      const made = String(kind.sample(field, 1));
      expect(made).not.toBe("");
      if (kind.type === "place" || kind.type === "record") continue;
      expect(kind.parse(made, field, OWN_READING), kind.type).toMatchObject({
        value: expect.anything(),
      });
    }
    const fields = new Map([
      ["email", { id: "email", label: "Email address", type: "text" as const }],
      ["site.email", { id: "site.email", label: "Site › Email", type: "text" as const }],
      ["colour", { id: "colour", label: "Colour", type: "choice" as const, options }],
      ["none", { id: "none", label: "Kind", type: "choices" as const }],
    ]);
    expect(madeUpValues(fields, 3)).toEqual({
      "contact:email": "reader4@example.org",
      "contact:site.email": "reader4@example.org",
      "contact:colour": "Blue",
      "contact:none": "Kind",
    });
  });
});
