import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { TagFormat } from "../text/index.ts";
import { trimmed } from "../words.ts";
import { DATE_STYLES, formatterOf, withArticle } from "./formats.ts";

const LOCALES = ["en-GB", "en-US", "fr", "fr-CA", "de", "ar"] as const;
const TODAY = "2026-03-02";
const isoDay = fc
  .integer({ min: -20_000, max: 40_000 })
  .map((n) => new Date(n * 86_400_000).toISOString().slice(0, 10));
const number = fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e12, max: 1e12 });
const locale = fc.constantFrom(...LOCALES);
const write = (format: TagFormat, value: never, lang: string, today = TODAY) =>
  formatterOf(format, lang)(value, today);

describe("formats are those of the platform in every language", () => {
  it("numbers and money", () => {
    fc.assert(
      fc.property(number, locale, fc.integer({ min: 0, max: 6 }), (n, lang, decimals) => {
        const digits = { minimumFractionDigits: decimals, maximumFractionDigits: decimals };
        expect(write({ type: "number", decimals }, n as never, lang)).toBe(
          new Intl.NumberFormat(lang, digits).format(n),
        );
        expect(write({ type: "money", currency: "EUR" }, n as never, lang)).toBe(
          new Intl.NumberFormat(lang, { style: "currency", currency: "EUR" }).format(n),
        );
      }),
    );
  });

  it("dates, whatever zone the machine is in", () => {
    fc.assert(
      fc.property(
        isoDay,
        locale,
        fc.constantFrom(...Object.keys(DATE_STYLES)),
        (day, lang, style) => {
          const whole = { ...DATE_STYLES[style], timeZone: "UTC" };
          const format = { type: "date", style } as TagFormat;
          expect(write(format, day as never, lang)).toBe(
            new Intl.DateTimeFormat(lang, whole).format(new Date(`${day}T12:00:00Z`)),
          );
        },
      ),
    );
  });

  it("plurals by the language's own rules, also in French", () => {
    const format: TagFormat = { type: "plural", one: "visite", other: "visites" };
    fc.assert(
      fc.property(fc.integer({ min: -5, max: 3_000 }), locale, (n, lang) => {
        const one = new Intl.PluralRules(lang).select(n) === "one";
        const words = `${new Intl.NumberFormat(lang).format(n)} ${one ? "visite" : "visites"}`;
        expect(write(format, n as never, lang)).toBe(words);
      }),
    );
    expect(write(format, 0 as never, "fr")).toBe("0 visite");
    expect(write(format, 0 as never, "en-GB")).toBe("0 visites");
    expect(write(format, "7" as never, "fr")).toBe("7 visites");
    expect(write(format, "seven" as never, "fr")).toBeNull();
  });
});

it("days until and since are counted from the day of the message", () => {
  const until: TagFormat = { type: "days", to: "until" };
  expect(write(until, "2026-03-05" as never, "en-GB")).toBe("3 days");
  expect(write(until, "2026-03-03" as never, "en-GB")).toBe("1 day");
  expect(write(until, "2026-03-05" as never, "fr")).toBe("3\u00a0jours");
  expect(write({ type: "days", to: "since" }, "2026-02-28" as never, "en-GB")).toBe("2 days");
  expect(write(until, "soon" as never, "en-GB")).toBeNull();
  expect(write(until, "2026-03-05" as never, "en-GB", "")).toBeNull();
});

it.each([
  ["apple", "an apple"],
  ["garden", "a garden"],
  ["hour", "an hour"],
  ["honest friend", "an honest friend"],
  ["house", "a house"],
  ["union", "a union"],
  ["unusual gift", "an unusual gift"],
  ["useful tool", "a useful tool"],
  ["one-day visit", "a one-day visit"],
  ["European", "a European"],
  ["Éclair", "an Éclair"],
  ["8th visit", "an 8th visit"],
  ["11 am walk", "an 11 am walk"],
  ["1st visit", "a 1st visit"],
  ["RSS feed", "an RSS feed"],
  ["X", "an X"],
  ["Patron", "a Patron"],
])("“%s” takes its article", (words, phrase) => {
  expect(withArticle(words)).toBe(phrase);
  expect(write({ type: "article" }, words as never, "en-GB")).toBe(phrase);
  expect(write({ type: "article" }, words as never, "fr")).toBe(words);
});

it("a shortened text is never longer than was asked, and ends at a word where it can", () => {
  expect(trimmed("The early flowers are up", 14)).toBe("The early…");
  expect(trimmed("Short", 14)).toBe("Short");
  fc.assert(
    fc.property(
      fc.string({ unit: "grapheme", maxLength: 60 }),
      fc.integer({ min: 4, max: 40 }),
      (text, n) => {
        const short = trimmed(text, n);
        expect([...short].length).toBeLessThanOrEqual(n);
        if ([...text].length <= n) expect(short).toBe(text);
      },
    ),
  );
});
