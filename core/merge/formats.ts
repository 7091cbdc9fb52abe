/** Formats of merge tags: how a value becomes words in the reader's language (ECMA-402 where it has them). */
import { dayOf } from "../derived/index.ts";
import type { Json } from "../json.ts";
import type { TagFormat } from "../text/index.ts";
import { trimmed } from "../words.ts";

/** Writes a value on a day (ISO date); null for a value of the wrong type. */
export type Formatter = (value: Json, today: string) => string | null;

function upperFirst(word: string, locale: string): string {
  const [first = ""] = word;
  return first.toLocaleUpperCase(locale) + word.slice(first.length);
}

export const DATE_STYLES: Record<string, Intl.DateTimeFormatOptions> = {
  short: { day: "numeric", month: "numeric", year: "numeric" },
  medium: { day: "numeric", month: "short", year: "numeric" },
  long: { day: "numeric", month: "long", year: "numeric" },
  weekday: { weekday: "long", day: "numeric", month: "long" },
  dayMonth: { day: "numeric", month: "long" },
  monthYear: { month: "long", year: "numeric" },
  year: { year: "numeric" },
};

/** Whether there is a value to show: nothing, null and the empty text are no value. */
export const written = (value: Json | undefined): string =>
  value === null || value === undefined || typeof value === "object" ? "" : String(value);

const numberOf = (value: Json): number | null => {
  const number = typeof value === "string" && value.trim() !== "" ? Number(value) : value;
  return typeof number === "number" && Number.isFinite(number) ? number : null;
};

/** Words that begin with a vowel's letter but not with its sound, and the other way about. */
const CONSONANT_SOUND = /^(?:uni([^nm]|$)|us[aeiou]|ut[ei]|eu|one([^a-z]|$)|once|ouija)/i;
const SILENT_H = /^(?:hour|honest|honou?r|heir|herb(al)?\b)/i;
const SPELLED_VOWEL = /^(?:[AEFHILMNORSX]$|[AEFHILMNORSX][A-Z0-9])/;
const NUMBER_VOWEL = /^(?:8\d*|11|18)(?:\D|$)|^(?:11|18)\d{3}(?:\D|$)/;

/** An English noun phrase with its indefinite article: “an hour”, “a union”, “an 18th visit”, “an RSS feed”. */
export function withArticle(words: string): string {
  const text = words.trim();
  if (text === "") return "";
  const vowel = /^\d/.test(text)
    ? NUMBER_VOWEL.test(text)
    : SPELLED_VOWEL.test(text) ||
      SILENT_H.test(text) ||
      (/^[aeiouàâäéèêëîïôöùûü]/i.test(text) && !CONSONANT_SOUND.test(text));
  return `${vowel ? "an" : "a"} ${text}`;
}

/** ECMA-402's objects are dear to make, and an email's tags are few in kind. */
const KEPT = 200;
const made = new Map<string, Formatter>();

/** The function that writes values in a format and language. */
export function formatterOf(format: TagFormat, locale: string): Formatter {
  const key = `${locale} ${JSON.stringify(format)}`;
  let formatter = made.get(key);
  if (!formatter) {
    if (made.size >= KEPT) made.clear();
    formatter = makeFormatter(format, locale);
    made.set(key, formatter);
  }
  return formatter;
}

function makeFormatter(format: TagFormat, locale: string): Formatter {
  switch (format.type) {
    case "case":
      return (value) => {
        const text = written(value);
        if (format.to === "upper") return text.toLocaleUpperCase(locale);
        if (format.to === "lower") return text.toLocaleLowerCase(locale);
        return text.replace(/[\p{L}\p{M}'’]+/gu, (word) => upperFirst(word, locale));
      };
    case "number":
    case "money": {
      const intl = new Intl.NumberFormat(
        locale,
        format.type === "money"
          ? { style: "currency", currency: format.currency }
          : { minimumFractionDigits: format.decimals, maximumFractionDigits: format.decimals },
      );
      return (value) => {
        const number = numberOf(value);
        return number === null ? null : intl.format(number);
      };
    }
    case "plural": {
      const intl = new Intl.NumberFormat(locale);
      const rules = new Intl.PluralRules(locale);
      return (value) => {
        const number = numberOf(value);
        if (number === null) return null;
        const words = rules.select(number) === "one" ? format.one : format.other;
        return `${intl.format(number)} ${words}`;
      };
    }
    case "date": {
      const intl = new Intl.DateTimeFormat(locale, {
        ...DATE_STYLES[format.style],
        timeZone: "UTC",
      });
      return (value) => {
        const day = dayOf(value);
        return day === null ? null : intl.format(new Date(day * 86_400_000));
      };
    }
    case "days": {
      const intl = new Intl.NumberFormat(locale, {
        style: "unit",
        unit: "day",
        unitDisplay: "long",
      });
      return (value, today) => {
        const [day, now] = [dayOf(value), dayOf(today)];
        if (day === null || now === null) return null;
        return intl.format(format.to === "until" ? day - now : now - day);
      };
    }
    case "article":
      // Other languages choose the article by the noun's gender, which nobody has told us.
      return /^en\b/i.test(locale) ? (value) => withArticle(written(value)) : written;
    case "trim":
      return (value) => trimmed(written(value), format.length);
  }
}
