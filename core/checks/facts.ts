/** What the words say of products and events, against what is known of them. */
import { type LiveItem, priceOf } from "../items/index.ts";
import { zoneOfEvent } from "../items/kinds/calendar.ts";
import type { Check, CheckInput } from "./check.ts";
import { bodyOf, inPassage, type Passage } from "./passages.ts";

/** The items an email knows of, each once. */
function itemsOf({ surroundings: { items, live } }: CheckInput, kind: string): LiveItem[] {
  const all = [
    ...(items?.values() ?? []),
    ...[...(live?.values() ?? [])].flatMap((list) => list.items),
  ];
  const known = new Map(
    all.filter((item) => item.kind === kind).map((item) => [`${item.source}:${item.key}`, item]),
  );
  return [...known.values()];
}

/** Shorter titles stand in many a sentence by chance. */
const LEAST = 5;
function* naming(
  input: CheckInput,
  kind: string,
): Generator<{ passage: Passage; words: string; item: LiveItem }> {
  const items = itemsOf(input, kind).filter(({ title }) => title.length >= LEAST);
  if (items.length === 0) return;
  for (const passage of bodyOf(input.passages)) {
    for (const { letters } of passage.paragraphs) {
      const low = letters.toLowerCase();
      for (const item of items) {
        if (low.includes(item.title.toLowerCase())) yield { passage, words: letters, item };
      }
    }
  }
}

const PRICE =
  /[£$€]\s?(\d+(?:[.,]\d{2})?)(?!\d)|(?<![\d.,])(\d+(?:[.,]\d{2})?)\s?(?:£|€|\$|euros?|pounds?)(?!\p{L})/giu;

export const prices: Check = {
  id: "price",
  run: (input) =>
    [...naming(input, "catalogue")].flatMap(({ passage, words, item }) => {
      const { now, before } = priceOf(item);
      const said = [...words.matchAll(PRICE)].map((match) =>
        Number((match[1] ?? match[2])!.replace(",", ".")),
      );
      if (
        now === null ||
        said.length === 0 ||
        said.some((price) => price === now || price === before)
      )
        return [];
      return [
        {
          check: "price",
          severity: "look" as const,
          message: `“${item.title}” costs ${now} in the catalogue`,
          detail: `The text says ${said.join(" and ")}.`,
          ...inPassage(passage),
        },
      ];
    }),
};

const TIME =
  /(?<![\d:.])(\d{1,2})(?:[:.h](\d{2}))?\s?(am|pm|a\.m\.|p\.m\.)(?!\p{L})|(?<![\d:.])([01]?\d|2[0-3])[:h]([0-5]\d)(?!\d)/giu;

const clockIn = (at: number, zone: string) =>
  new Intl.DateTimeFormat("en-GB", {
    hour: "2-digit",
    minute: "2-digit",
    hourCycle: "h23",
    timeZone: zone,
  }).format(at);

/** Times in words, as HH:MM. */
const timesIn = (words: string): string[] =>
  [...words.matchAll(TIME)].map(([, hour, minute, half, wholeHour, wholeMinute]) => {
    const h = half ? (Number(hour) % 12) + (/^p/i.test(half) ? 12 : 0) : Number(wholeHour);
    return `${String(h).padStart(2, "0")}:${(half ? minute : wholeMinute) ?? "00"}`;
  });

export const eventTimes: Check = {
  id: "event-times",
  run: (input) =>
    [...naming(input, "calendar")].flatMap(({ passage, words, item }) => {
      if (item.values.whole_day === true) return [];
      const zone = zoneOfEvent(item);
      const minutes = typeof item.values.minutes === "number" ? item.values.minutes : 0;
      const real = [item.at, item.at + minutes * 60_000].map((at) => clockIn(at, zone));
      const said = timesIn(words);
      if (said.length === 0 || said.some((time) => real.includes(time))) return [];
      return [
        {
          check: "event-times",
          severity: "look" as const,
          message: `“${item.title}” begins at ${real[0]}`,
          detail: `The text says ${said.join(" and ")}; the calendar knows another time.`,
          ...inPassage(passage),
        },
      ];
    }),
};
