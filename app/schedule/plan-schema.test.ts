import { describe, expect, it } from "vitest";
import { AT_ONCE } from "#core/schedule/index.ts";
import { momentOf, paceOf, planSchema } from "./plan-schema.ts";

const plan = (date: string, time: string, more: object = {}) =>
  planSchema.safeParse({ when: "later", date, time, zone: "Europe/London", ...more });
const wrongAt = (result: ReturnType<typeof plan>) =>
  result.error?.issues.map(({ path, message }) => `${path.join(".")}: ${message}`);
const moment = (result: ReturnType<typeof plan>) => momentOf(result.data!)?.toISOString();

it("takes a day and a time as people write them, and knows the moment", () => {
  expect(moment(plan("2/6/2031", "9:00"))).toBe("2031-06-02T08:00:00.000Z");
  expect(moment(plan("2031-12-02", "18.30"))).toBe("2031-12-02T18:30:00.000Z");
  expect(moment(plan("2/6/2031", "9", { zone: "America/New_York" }))).toBe(
    "2031-06-02T13:00:00.000Z",
  );
});

it("asks for nothing where it goes now", () => {
  const now = planSchema.parse({ when: "now" });
  expect(momentOf(now)).toBeNull();
});

describe("says what is wrong at the field", () => {
  it.each([
    ["31/2/2031", "9:00", {}, "date: Write a day"],
    ["tomorrow", "9:00", {}, "date: Write a day"],
    ["2/6/2031", "25:00", {}, "time: Write a time"],
    ["2/6/2031", "9:60", {}, "time: Write a time"],
    ["2/6/2031", "9:00", { zone: "Moon/Base" }, "zone: Choose a zone from the list"],
    ["2/6/2031", "9:00", { zone: undefined }, "zone: Choose a zone"],
    ["2/6/2031", "9:00", { zone: "Europe/London\r\nX" }, "zone: Choose a zone from the list"],
  ])("%s at %s %o", (date, time, more, words) => {
    expect(wrongAt(plan(date, time, more))).toEqual([expect.stringContaining(words)]);
  });
});

it("tells a time that no clock shows, and the two beside it", () => {
  expect(wrongAt(plan("30/3/2031", "1:30"))).toEqual([
    "time: Clocks go forward that night: after 00:59 comes 02:00. Choose one of those.",
  ]);
});

it("asks which is meant where clocks go back, and takes either", () => {
  expect(wrongAt(plan("26/10/2031", "1:30"))).toEqual([
    "turn: Clocks go back that night: this time comes twice. Say which one.",
  ]);
  const turns = ["first", "second"].map((turn) => moment(plan("26/10/2031", "1:30", { turn })));
  expect(turns).toEqual(["2031-10-26T00:30:00.000Z", "2031-10-26T01:30:00.000Z"]);
  expect(plan("26/10/2031", "1:30", { turn: "third" }).success).toBe(false);
});

describe("how it is spread over time", () => {
  const paced = (more: object) => paceOf(plan("2/6/2031", "9:00", more).data!);
  it("is one moment for all where nothing is said", () => {
    expect(paced({})).toEqual(AT_ONCE);
    expect(paced({ clocks: "one" })).toEqual(AT_ONCE);
  });
  it("is the time at each reader's own clock, or waves, or both", () => {
    const own = { date: "2031-06-02", time: "09:00" };
    expect(paced({ clocks: "own" })).toEqual({ ...AT_ONCE, own });
    expect(paced({ clocks: "own", perHour: "500" })).toEqual({ ...AT_ONCE, own, perHour: 500 });
    const now = planSchema.parse({ when: "now", clocks: "own", perHour: "20" });
    expect(paceOf(now)).toEqual({ ...AT_ONCE, perHour: 20 });
  });
  it("is the hour in which each reader reads, for which no time is asked", () => {
    const best = planSchema.safeParse({
      when: "later",
      clocks: "best",
      date: "2/6/2031",
      zone: "Europe/London",
    });
    expect(paceOf(best.data!)).toEqual({ ...AT_ONCE, best: "2031-06-02" });
    expect(momentOf(best.data!)!.toISOString()).toBe("2031-06-01T23:00:00.000Z");
  });
  it.each(["0", "-5", "2.5", "many", "1e12"])("takes no waves of %s", (perHour) => {
    expect(wrongAt(plan("2/6/2031", "9:00", { perHour }))).toEqual([
      expect.stringMatching(/^perHour: /),
    ]);
  });
});
