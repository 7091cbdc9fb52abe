/** The design of an item with the values of one in it. Kept: nodes and items never change. */
import type { DocNode } from "../document/index.ts";
import { itemKindOf, type LiveItem, LOCAL_TIME, said, tagsOfKind } from "../items/index.ts";
import { isJsonObject, type Json, type JsonObject } from "../json.ts";
import { Markup, type Segment } from "../markup/index.ts";
import { ITEM_PICTURE, itemFieldOf, type Line, line, linkSchema, type Tag } from "../text/index.ts";

/** The field of an event that is the address of its calendar file. */
export const CALENDAR_FILE = "calendar_file";

/** To whom an item says something. */
export interface Telling {
  /** The readers' language. */
  readonly lang: string;
  /** Where pages are served to readers. */
  readonly base: string;
  /** The field of contacts that holds their time zone; null where there is none. */
  readonly zoneField: string | null;
}

/** What an item says for a field; empty where it says nothing. */
export function itemSays(
  item: LiveItem,
  field: string,
  { lang, base }: Telling,
): string | number | boolean {
  if (field === CALENDAR_FILE) {
    return `${base}/e/${item.source}/${encodeURIComponent(item.key.toWellFormed())}`;
  }

  const made = tagsOfKind(itemKindOf(item.kind)).find(({ id }) => id === field);
  if (made) return made.say(item, lang);
  const value = item.values[field];
  return typeof value === "number" || typeof value === "boolean" ? value : said(item, field);
}

const isTag = (value: JsonObject): boolean => value.type === "tag" && isJsonObject(value.attrs!);

/** The time of an event by the clock of its reader: a tag of theirs, which says nothing where it is the same. */
const byTheirClock = (item: LiveItem, zoneField: string): Tag => ({
  ref: `contact:${zoneField}`,
  ...{ fallback: "", format: null },
  clock: { at: item.at, values: item.values },
});

/** A tag as the item says it; another tag as it is. */
export function saidTag(tag: Tag, item: LiveItem, to: Telling): Tag {
  const field = itemFieldOf(tag.ref);
  if (field === null) return tag;
  if (field === LOCAL_TIME && item.kind === "calendar" && to.zoneField !== null) {
    return byTheirClock(item, to.zoneField);
  }
  return { ...tag, said: itemSays(item, field, to) };
}

/** The same in what is rendered: fields that stood in words written by hand, or in HTML of one's own. */
export const saidIn = ({ segments }: Markup, item: LiveItem, to: Telling): Markup => {
  const isStray = (one: Segment) =>
    typeof one !== "string" &&
    one.slot === "tag" &&
    one.tag.said === undefined &&
    itemFieldOf(one.tag.ref) !== null;
  if (!segments.some(isStray)) return new Markup(segments);
  return new Markup(
    segments.map((one) =>
      typeof one !== "string" && one.slot === "tag"
        ? { ...one, tag: saidTag(one.tag, item, to) }
        : one,
    ),
  );
};

/** Where an address leads that has fields of the item in it; nowhere where that is no address. */
function filledLink(address: Line, item: LiveItem, to: Telling): Json {
  const parts = address.content ?? [];
  const [only] = parts;
  const whole = parts.length === 1 && only?.type === "tag";
  const content = parts.map((part) => {
    if (part.type !== "tag") return part.text ?? "";
    const tag = saidTag(part.attrs as unknown as Tag, item, to);
    if (tag.said === undefined) return tag;
    const words = String(tag.said) || (tag.fallback ?? "");
    return whole ? words : encodeURIComponent(words.toWellFormed());
  });
  const link = linkSchema.safeParse({ kind: "web", address: line(...content) });
  return (link.success ? link.data : { kind: "none" }) as unknown as Json;
}

function fill(value: Json, item: LiveItem, to: Telling): Json {
  if (value === ITEM_PICTURE) return item.picture;
  if (Array.isArray(value)) return value.map((one) => fill(one, item, to));
  if (!isJsonObject(value)) return value;
  if (isTag(value)) {
    const tag = saidTag(value.attrs as unknown as Tag, item, to);
    return { ...value, attrs: tag as unknown as Json };
  }
  if (value.kind === "web" && isJsonObject(value.address!)) {
    return filledLink(value.address as unknown as Line, item, to);
  }
  return Object.fromEntries(
    Object.entries(value).map(([name, one]) => [name, fill(one as Json, item, to)]),
  );
}

const kept = new WeakMap<LiveItem, Map<string, WeakMap<DocNode, DocNode>>>();

/** A block of the design and what it holds, with what the item says, has a picture of and leads to. */
export function filled(node: DocNode, item: LiveItem, to: Telling): DocNode {
  const key = `${to.lang} ${to.base} ${to.zoneField}`;
  const byLang = kept.get(item) ?? new Map<string, WeakMap<DocNode, DocNode>>();
  kept.set(item, byLang);
  const known = byLang.get(key) ?? new WeakMap<DocNode, DocNode>();
  byLang.set(key, known);
  let made = known.get(node);
  if (!made) {
    made = {
      ...node,
      props: fill(node.props, item, to) as JsonObject,
      children: node.children.map((child) => filled(child, item, to)),
    };
    known.set(node, made);
  }
  return made;
}
