/** Dates in the words of an email, against the calendar and today. */
import { describe, expect, it } from "vitest";
import { createBlock } from "../blocks/index.ts";
import { apply, find } from "../document/index.ts";
import type { Finding } from "../kinds/kind.ts";
import { emailOf, SURROUNDINGS } from "../testing/rendered.ts";
import { doc } from "../text/index.ts";
import { type KnownReaders, runChecks } from "./index.ts";

const readersOn = (today: string): KnownReaders => ({
  ...{ conditions: [], groups: [], problems: [], today },
});
const emailSaying = (words: string) =>
  emailOf([createBlock("text", () => "t", { words: doc(words) })]);

/** What one check says of these words on a day. */
const said = (check: string, words: string, today: string): Finding[] =>
  runChecks(emailSaying(words), SURROUNDINGS, new Map(), readersOn(today)).filter(
    (one) => one.check === check,
  );
/** The words after each of a finding's mends. */
const mended = (words: string, [finding]: readonly Finding[]): Record<string, string> =>
  Object.fromEntries(
    (finding?.mends ?? []).map(({ label, edits }) => {
      const made = edits.reduce(apply, emailSaying(words));
      return [label, JSON.stringify(find(made, "t")!.node.props.words)];
    }),
  );

describe("a weekday", () => {
  const of = (words: string, today = "2026-03-02") =>
    said("weekday", words, today).map(({ severity, message, detail }) => [
      severity,
      message,
      detail,
    ]);
  it("is taken as it stands where it is the date's own, in two languages and both orders", () => {
    for (const words of [
      "Come on Sunday 8 March 2026.",
      "Come on Sunday, March 8, 2026.",
      "Come on Sunday the 8th of March.",
      "Venez dimanche 8 mars 2026.",
      "Venez dimanche, le 1er mars 2026.",
      "Numbers 8 March 2026 alone, and Monday alone.",
      "Room 318 Marching bands, Monday 8 Marchers",
    ]) {
      expect(of(words), words).toEqual([]);
    }
  });
  it("is told with the one it is, and stops a send", () => {
    expect(of("Come on Saturday 8 March 2026.")).toEqual([
      ["stop", "“Saturday 8 March 2026” is a Sunday", "The weekday and the date do not fit."],
    ]);
    expect(of("Come on Saturday, March 8.")).toEqual([
      ["stop", "“Saturday, March 8” is a Sunday", "In 2026, that is."],
    ]);
    expect(of("Venez samedi 8 mars")[0]).toContain("“samedi 8 mars” is a dimanche");
  });
  it("without a year is in that year in which the day comes, or has come lately", () => {
    // 2 January 2027 is a Saturday, in 2026 it was a Friday.
    expect(of("Saturday 2 January", "2026-11-20")).toEqual([]);
    expect(of("Friday 2 January", "2026-11-20")).toEqual([
      ["stop", "“Friday 2 January” is a Saturday", "In 2027, that is."],
    ]);
    // Just over, it is still of this year.
    expect(of("Friday 2 January", "2026-01-20")).toEqual([]);
    // 20 December 2025 was a Saturday: last month's.
    expect(of("Saturday 20 December", "2026-01-05")).toEqual([]);
  });
  it("of a day that no month has is no day at all; 29 February waits for its year", () => {
    expect(of("Monday 31 February 2026")).toEqual([
      ["stop", "There is no “Monday 31 February 2026”", "The month has no such day."],
    ]);
    expect(of("Monday 32 March")[0]).toContain("There is no “Monday 32 March”");
    expect(of("Tuesday 29 February 2028")).toEqual([]);
  });
  it("says nothing as long as nobody has said what day it is", () => {
    const words = emailSaying("Saturday 8 March 2026");
    expect(
      runChecks(words, SURROUNDINGS, new Map()).filter(({ check }) => check === "weekday"),
    ).toEqual([]);
  });
  it("is mended by its own weekday, or by the nearest day of that name", () => {
    const mends = (words: string) => mended(words, said("weekday", words, "2026-03-02"));
    const made = mends("On Saturday 8 March 2026, come.");
    expect(Object.keys(made)).toEqual(["Make it Sunday", "Make it the 7"]);
    expect(made["Make it Sunday"]).toContain("On Sunday 8 March 2026, come.");
    expect(made["Make it the 7"]).toContain("On Saturday 7 March 2026, come.");
    // Three days either way, and never out of the month.
    expect(Object.keys(mends("Wednesday 8 March 2026"))).toEqual([
      "Make it Sunday",
      "Make it the 11",
    ]);
    expect(Object.keys(mends("Thursday 8 March 2026"))).toEqual([
      "Make it Sunday",
      "Make it the 5",
    ]);
    expect(Object.keys(mends("Saturday 1 March 2026"))).toEqual(["Make it Sunday"]);
    expect(Object.keys(mends("on saturday 8 march 2026"))[0]).toBe("Make it sunday");
  });
});

describe("a date with its year", () => {
  const of = (words: string, today: string) =>
    said("past-date", words, today).map(({ message, detail }) => [message, detail]);
  it("is over from the day after, for a year; what is older is history", () => {
    expect(of("until 8 March 2026", "2026-03-08")).toEqual([]);
    expect(of("until 8 March 2026", "2026-03-09")).toEqual([
      ["“8 March 2026” is over", "It was yesterday."],
    ]);
    expect(of("until 8 March 2026", "2026-03-10")).toEqual([
      ["“8 March 2026” is over", "It was 2 days ago."],
    ]);
    expect(of("until 8 March 2026", "2027-03-09")).toEqual([
      ["“8 March 2026” is over", "It was 366 days ago."],
    ]);
    expect(of("until 8 March 2026", "2027-03-10")).toEqual([]);
  });
  it("is told where it stands, once for each, and never without its year", () => {
    expect(of("8 March", "2026-03-09")).toEqual([]);
    expect(of("31 February 2026", "2026-03-09")).toEqual([]);
    expect(of("March 1, 2026 and 2 March 2026", "2026-03-09").map(([words]) => words)).toEqual([
      "“2 March 2026” is over",
      "“March 1, 2026” is over",
    ]);
    const [finding] = said("past-date", "8 March 2026", "2026-03-09");
    expect(finding).toMatchObject({ severity: "look", at: "t", in: ["words"] });
  });
});
