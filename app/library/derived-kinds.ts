/** Kinds of derived tags on screen, and their values as they are written. */
import type { DateFormula, DerivedKind, DerivedValue, NumberFormula } from "#core/derived/index.ts";
import { lineLiquid, liquidLine, phrase, type TextJson } from "#core/text/index.ts";

export const KIND_NAMES: Readonly<Record<DerivedKind, string>> = {
  text: "Text",
  rich: "Text with marks and links",
  link: "A web address",
  picture: "An image",
  sender: "A sender: name and mail address",
  number: "A number that is worked out",
  date: "A date that is worked out",
};

export const OP_NAMES: Readonly<Record<NumberFormula["op"], string>> = {
  yearsSince: "whole years since",
  daysSince: "days since",
  daysUntil: "days until",
  plus: "plus",
  minus: "minus",
  times: "times",
  over: "divided by",
};

/** A value while it is written: lines as text with tags in braces. */
export type Written =
  | { readonly words: string }
  | { readonly rich: TextJson }
  | { readonly picture: string | null; readonly alt: string }
  | { readonly name: string; readonly address: string }
  | NumberFormula
  | DateFormula;

export function writtenOf(value: DerivedValue): Written {
  if ("op" in value) return value;
  if ("picture" in value) return { picture: value.picture, alt: lineLiquid(value.alt) };
  if ("words" in value) {
    return value.words.type === "phrase"
      ? { rich: value.words }
      : { words: lineLiquid(value.words) };
  }
  return { name: lineLiquid(value.name), address: lineLiquid(value.address) };
}
export function valueFrom(written: Written): DerivedValue {
  if ("op" in written) return written;
  if ("rich" in written) return { words: written.rich };
  if ("picture" in written) return { picture: written.picture, alt: liquidLine(written.alt) };
  if ("words" in written) return { words: liquidLine(written.words) };
  return { name: liquidLine(written.name), address: liquidLine(written.address) };
}

/** What a value of a kind is before anybody wrote it; `dates` are refs of date fields. */
export function emptyValue(kind: DerivedKind, dates: readonly string[]): Written {
  switch (kind) {
    case "text":
    case "link":
      return { words: "" };
    case "rich":
      return { rich: phrase() };
    case "picture":
      return { picture: null, alt: "" };
    case "sender":
      return { name: "", address: "" };
    case "number":
      return { op: "yearsSince", field: dates[0] ?? "" };
    case "date":
      return { op: "daysAfter", field: dates[0] ?? "", days: 0 };
  }
}
