/** What a merge tag can say, as it is offered: fields, the sender's and the email's own values, derived tags. */
import type { DerivedTag } from "#core/derived/index.ts";
import { EMAIL_FIELD, type Field } from "#core/fields/index.ts";
import type { ItemKind } from "#core/items/index.ts";
import type { CodeRoll } from "#core/kinds/kind.ts";
import type { TagFormat } from "#core/text/index.ts";

/** What a value is like, and so which formats it can take; what is fixed is never missing either. */
export type TagType = "text" | "rich" | "number" | "date" | "fixed";

export interface TagSource {
  readonly ref: string;
  readonly label: string;
  readonly group: string;
  readonly type: TagType;
}

const typeOf = ({ type }: Field): TagType => (type === "number" || type === "date" ? type : "text");

const OWN: readonly TagSource[] = [
  { ref: "brand:name", label: "The sender’s name", group: "This email", type: "text" },
  { ref: "brand:address", label: "The sender’s postal address", group: "This email", type: "text" },
  { ref: "campaign:name", label: "The campaign’s name", group: "This email", type: "text" },
  { ref: "campaign:today", label: "The day it is sent", group: "This email", type: "date" },
  {
    ref: "campaign:web_version",
    label: "Address of the web version",
    group: "This email",
    type: "fixed",
  },
  {
    ref: "campaign:preferences",
    label: "Address of the preference page",
    group: "This email",
    type: "fixed",
  },
  {
    ref: "campaign:unsubscribe",
    label: "Address for unsubscribing",
    group: "This email",
    type: "fixed",
  },
];

function derivedSources({ id, name, kind }: DerivedTag): TagSource[] {
  const group = "Derived tags";
  // Pictures are chosen where pictures stand.
  if (kind === "picture") return [];
  if (kind !== "sender") {
    const own = { number: "number", date: "date", rich: "rich" } as const;
    const type = own[kind as keyof typeof own] ?? "text";
    return [{ ref: `derived:${id}`, label: name, group, type }];
  }
  return [
    { ref: `derived:${id}.name`, label: `${name} › name`, group, type: "text" },
    { ref: `derived:${id}.address`, label: `${name} › mail address`, group, type: "text" },
  ];
}

/** What the item says in whose design a text stands. */
const itemSources = (
  { kind, item, fields, made }: ItemKind,
  own: readonly (Field & { readonly kind: string })[],
): TagSource[] => {
  const usual = new Set(fields.map(({ id }) => id));
  const all = [...fields, ...own.filter((one) => one.kind === kind && !usual.has(one.id))];
  const group = `The ${item}`;
  return [
    { ref: "item:title", label: "Title", group, type: "text" },
    ...made.map(({ id, label }) => ({ ref: `item:${id}`, label, group, type: "text" as const })),
    ...all.map((field) => ({
      ref: `item:${field.id}`,
      label: field.label,
      group,
      type: typeOf(field),
    })),
  ];
};

export const tagSources = (
  fields: readonly Field[],
  derived: Iterable<DerivedTag>,
  rolls: Iterable<CodeRoll>,
  item: ItemKind | null = null,
  itemFields: readonly (Field & { readonly kind: string })[] = [],
): TagSource[] => [
  ...(item ? itemSources(item, itemFields) : []),
  ...[...fields, EMAIL_FIELD].map((field) => ({
    ref: `contact:${field.id}`,
    label: field.label,
    group: "The reader",
    type: typeOf(field),
  })),
  ...[...derived].flatMap(derivedSources),
  ...[...rolls].map(({ id, name }) => ({
    ref: `code:${id}`,
    label: name,
    group: "Code rolls",
    type: "fixed" as const,
  })),
  ...OWN,
];

interface FormatChoice {
  readonly label: string;
  readonly format: TagFormat | null;
}
const CASES: readonly FormatChoice[] = [
  { label: "UPPER CASE", format: { type: "case", to: "upper" } },
  { label: "lower case", format: { type: "case", to: "lower" } },
  { label: "First Letters", format: { type: "case", to: "title" } },
];
/** The formats for each type of value, the usual one first. Those with settings of their own start with these. */
export const FORMATS: Readonly<Record<TagType, readonly FormatChoice[]>> = {
  text: [
    { label: "As it is", format: null },
    ...CASES,
    { label: "With a or an", format: { type: "article" } },
    { label: "Shortened", format: { type: "trim", length: 40 } },
  ],
  rich: [{ label: "As it is", format: null }],
  number: [
    { label: "Whole number", format: { type: "number", decimals: 0 } },
    { label: "Two decimals", format: { type: "number", decimals: 2 } },
    { label: "An amount of money", format: { type: "money", currency: "GBP" } },
    {
      label: "With a word: 1 visit, 2 visits",
      format: { type: "plural", one: "visit", other: "visits" },
    },
    { label: "As it is", format: null },
  ],
  date: [
    { label: "Day and month in words", format: { type: "date", style: "long" } },
    { label: "Short month", format: { type: "date", style: "medium" } },
    { label: "Only figures", format: { type: "date", style: "short" } },
    { label: "With the weekday", format: { type: "date", style: "weekday" } },
    { label: "Without the year", format: { type: "date", style: "dayMonth" } },
    { label: "Month and year", format: { type: "date", style: "monthYear" } },
    { label: "Only the year", format: { type: "date", style: "year" } },
    { label: "Days until then", format: { type: "days", to: "until" } },
    { label: "Days since then", format: { type: "days", to: "since" } },
  ],
  fixed: [{ label: "As it is", format: null }],
};

/** Which of a type's formats one is, whatever its own settings are; -1 for none of them. */
export const formatIndex = (type: TagType, format: TagFormat | null): number => {
  const same = (a: TagFormat | null) => {
    if (a === null || format === null) return a === format;
    if (a.type !== format.type) return false;
    if (["money", "plural", "trim"].includes(a.type)) return true;
    return (
      JSON.stringify(Object.entries(a).sort()) === JSON.stringify(Object.entries(format).sort())
    );
  };
  return FORMATS[type].findIndex((choice) => same(choice.format));
};
