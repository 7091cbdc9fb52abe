/** A reader's values: how a tag's value becomes the words that are shown. */
import type { Json } from "../json.ts";
import type { Tag, TagFormat } from "../text/index.ts";

/** What a message is merged with: values by tag reference (`contact:…`, `brand:…`, `campaign:…`). */
export interface Reader {
  readonly values: { readonly [ref: string]: Json | undefined };
  /** Signed token of this reader's message; empty where there is none (sheets, previews). */
  readonly token: string;
}

const upperFirst = (word: string, locale: string) =>
  word.charAt(0).toLocaleUpperCase(locale) + word.slice(1);

const DATE_STYLES: Record<string, Intl.DateTimeFormatOptions> = {
  short: { day: "numeric", month: "numeric", year: "numeric" },
  medium: { day: "numeric", month: "short", year: "numeric" },
  long: { day: "numeric", month: "long", year: "numeric" },
  weekday: { weekday: "long", day: "numeric", month: "long" },
};

const ISO_DATE = /^\d{4}-\d{2}-\d{2}/;

type Formatter = (value: Json) => string | null;

/** Whether there is a value to show: nothing, null and the empty text are no value. */
const written = (value: Json | undefined): string =>
  value === null || value === undefined || typeof value === "object" ? "" : String(value);

/** Makes the function that writes values in a format and language. A value of the wrong type gives null. */
function makeFormatter(format: TagFormat, locale: string): Formatter {
  switch (format.type) {
    case "case":
      return (value) => {
        const text = written(value);
        if (format.to === "upper") return text.toLocaleUpperCase(locale);
        if (format.to === "lower") return text.toLocaleLowerCase(locale);
        return text.replace(/[\p{L}\p{M}'’]+/gu, (word) => upperFirst(word, locale));
      };
    case "number": {
      const digits = format.decimals;
      const intl = new Intl.NumberFormat(locale, {
        minimumFractionDigits: digits,
        maximumFractionDigits: digits,
      });
      return (value) => {
        const number = typeof value === "string" && value.trim() !== "" ? Number(value) : value;
        return typeof number === "number" && Number.isFinite(number) ? intl.format(number) : null;
      };
    }
    case "date": {
      const intl = new Intl.DateTimeFormat(locale, {
        ...DATE_STYLES[format.style],
        timeZone: "UTC",
      });
      return (value) => {
        if (typeof value !== "string" || !ISO_DATE.test(value)) return null;
        const date = new Date(`${value.slice(0, 10)}T00:00:00Z`);
        return Number.isNaN(date.getTime()) ? null : intl.format(date);
      };
    }
  }
}

/** Formatted values kept per tag: dates and levels repeat among readers. */
const KEPT = 5_000;

/**
 * The function that gives a tag's words for a reader: the formatted value, else the fallback, else
 * nothing. Made once per tag and language.
 */
export function tagWriter(tag: Tag, locale: string): (reader: Reader) => string {
  const { ref, format } = tag;
  const fallback = tag.fallback ?? "";
  if (!format) return (reader) => written(reader.values[ref]) || fallback;
  const formatter = makeFormatter(format, locale);
  const kept = new Map<Json, string>();
  return (reader) => {
    const value = reader.values[ref];
    if (value === null || value === undefined || value === "" || typeof value === "object") {
      return fallback;
    }
    let text = kept.get(value);
    if (text === undefined) {
      text = formatter(value) || fallback;
      if (kept.size >= KEPT) kept.clear();
      kept.set(value, text);
    }
    return text;
  };
}

/** A tag's words for a reader, for the odd single use. */
export const tagWords = (tag: Tag, reader: Reader, locale: string): string =>
  tagWriter(tag, locale)(reader);
