/** A reader's values: how a tag's value becomes the words that are shown. */
import { SAMPLE_CODE } from "../codes/index.ts";
import {
  type DerivedTag,
  type DerivedTags,
  type DerivedValue,
  derivedIdOf,
  resultOf,
} from "../derived/index.ts";
import { type Field, MAIL_ADDRESS } from "../fields/index.ts";
import { otherClock } from "../items/index.ts";
import type { Json } from "../json.ts";
import type { Brand, CodeRoll } from "../kinds/kind.ts";
import { LIMITS } from "../limits.ts";
import { ruleKey, type Tag, type TextJson } from "../text/index.ts";
import { formatterOf, written } from "./formats.ts";
import { percent } from "./land.ts";

/** What a message is merged with: values by tag reference (`contact:…`, `brand:…`, `campaign:…`, `code:…`). */
export interface Reader {
  readonly values: { readonly [ref: string]: Json | undefined };
  /**
   * Which of the email's conditions hold for them: a character each, in the order of
   * `CompiledEmail.conditions`, "1" where it does. Without it none holds.
   */
  readonly bits?: string;
  /** Signed token of this reader's message; empty where there is none (sheets, previews). */
  readonly token: string;
}

/** The day a message is of (ISO date), among the values. */
export const TODAY = "campaign:today";

/** What writing a tag needs to know of the email it stands in. */
export interface TagContext {
  readonly lang: string;
  readonly conditions: readonly string[];
  readonly derived: DerivedTags;
  /** What stands for a field's missing value where a tag says nothing else, by ref. */
  readonly fallbacks: ReadonlyMap<string, string>;
}
/** For a tag outside of any email. */
export const plainContext = (lang: string): TagContext => ({
  lang,
  conditions: [],
  derived: new Map(),
  fallbacks: new Map(),
});

/** The sign of a condition that holds, among a reader's bits. */
export const HOLDS = "1".charCodeAt(0);

type Read = (reader: Reader) => Json | undefined;

/** Formatted values kept per tag: dates and levels repeat among readers. */
const KEPT = 5_000;

/** The value of a line or phrase for a reader: its words and tags one after another; in an address tags are encoded. */
function lineReader(line: TextJson, context: TagContext, depth: number, address = false): Read {
  const parts = (line.content ?? []).map((part) => {
    if (part.type === "hard_break") return () => " ";
    if (part.type !== "tag") return () => part.text ?? "";
    const words = tagWriter(part.attrs as unknown as Tag, context, depth);
    return address ? (reader: Reader) => percent(words(reader)) : words;
  });
  if (parts.length === 1) return parts[0]!;
  return (reader) => {
    let words = "";
    for (let i = 0; i < parts.length; i++) words += parts[i]!(reader);
    return words;
  };
}

function derivedReader(
  tag: DerivedTag,
  part: string | undefined,
  context: TagContext,
  depth: number,
): Read {
  const read = (value: DerivedValue): Read => {
    if ("op" in value) {
      return (reader) => resultOf(value, reader.values, written(reader.values[TODAY]));
    }
    if ("words" in value) return lineReader(value.words, context, depth, tag.kind === "link");
    if ("picture" in value) return lineReader(value.alt, context, depth);
    if (part !== "address") return lineReader(value.name, context, depth);
    const address = lineReader(value.address, context, depth);
    return (reader) => {
      const found = String(address(reader)).trim();
      return MAIL_ADDRESS.test(found) ? found : undefined;
    };
  };
  const cases = tag.cases.map(({ rule, value }) => ({
    at: context.conditions.indexOf(ruleKey(rule)),
    read: read(value),
  }));
  const otherwise = read(tag.otherwise);
  return (reader) => {
    const bits = reader.bits ?? "";
    for (let i = 0; i < cases.length; i++) {
      const { at, read: own } = cases[i]!;
      if (bits.charCodeAt(at) !== HOLDS) continue;
      const value = own(reader);
      return written(value) === "" ? otherwise(reader) : value;
    }
    return otherwise(reader);
  };
}

function valueReader(ref: string, context: TagContext, depth: number): Read {
  const id = derivedIdOf(ref);
  if (id === null) return (reader) => reader.values[ref];
  const tag = context.derived.get(id);
  // One that leads to itself comes to an end.
  if (!tag || depth >= LIMITS.derivedSteps) return () => undefined;
  return derivedReader(tag, ref.split(".")[1], context, depth + 1);
}

/**
 * The function that gives a tag's words for a reader: the formatted value, else the fallback, else
 * nothing. Made once per tag and email.
 */
export function tagWriter(tag: Tag, context: TagContext, depth = 0): (reader: Reader) => string {
  const { ref, format } = tag;
  const fallback = tag.fallback ?? context.fallbacks.get(ref) ?? "";
  const { said } = tag;
  const read = said === undefined ? valueReader(ref, context, depth) : () => said;
  const { clock } = tag;
  if (clock) return (reader) => otherClock(clock, written(read(reader)), context.lang);
  if (!format) return (reader) => written(read(reader)) || fallback;
  const formatter = formatterOf(format, context.lang);
  const kept = new Map<Json, string>();
  let keptFor = "";
  return (reader) => {
    const value = read(reader);
    if (value === null || value === undefined || value === "" || typeof value === "object") {
      return fallback;
    }
    const today = written(reader.values[TODAY]);
    if (today !== keptFor || kept.size >= KEPT) {
      kept.clear();
      keptFor = today;
    }
    let text = kept.get(value);
    if (text === undefined) {
      text = formatter(value, today) || fallback;
      kept.set(value, text);
    }
    return text;
  };
}

/** A tag's words for a reader, for the odd single use. */
export const tagWords = (tag: Tag, reader: Reader, context: TagContext): string =>
  tagWriter(tag, context)(reader);

/** Values that are the same for all readers of an email on a day (ISO date). */
export const fixedValues = (
  brand: Brand,
  campaign: string,
  today: string,
): Record<string, string> => ({
  "brand:name": brand.name,
  "brand:address": brand.postalAddress.split("\n").filter(Boolean).join(", "),
  "campaign:name": campaign,
  [TODAY]: today,
});

/** The fallbacks that fields have of their own, by the refs of their tags. */
export const fallbacksOf = (fields: Iterable<Field>): ReadonlyMap<string, string> =>
  new Map(
    [...fields].flatMap(({ id, format }) =>
      format?.fallback ? [[`contact:${id}`, format.fallback] as const] : [],
    ),
  );

/** What stands for codes where none is torn off: in previews and tests. */
export const sampleCodes = (rolls: Iterable<Pick<CodeRoll, "id">>): Record<string, string> =>
  Object.fromEntries([...rolls].map(({ id }) => [`code:${id}`, SAMPLE_CODE]));
