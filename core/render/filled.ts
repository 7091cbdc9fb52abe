/** The design of an item with the values of one in it. Kept: nodes and items never change. */
import type { DocNode } from "../document/index.ts";
import { itemKindOf, type LiveItem, said, tagsOfKind } from "../items/index.ts";
import { isJsonObject, type Json, type JsonObject } from "../json.ts";
import { Markup, type Segment } from "../markup/index.ts";
import { ITEM_PICTURE, itemFieldOf, type Line, line, linkSchema, type Tag } from "../text/index.ts";

/** The field of an event that is the address of its calendar file. */
export const CALENDAR_FILE = "calendar_file";

/** What an item says for a field, for readers of a language; empty where it says nothing. */
export function itemSays(
  item: LiveItem,
  field: string,
  lang: string,
  publicAddress: string,
): string | number | boolean {
  if (field === CALENDAR_FILE) {
    return `${publicAddress}/e/${item.source}/${encodeURIComponent(item.key.toWellFormed())}`;
  }

  const made = tagsOfKind(itemKindOf(item.kind)).find(({ id }) => id === field);
  if (made) return made.say(item, lang);
  const value = item.values[field];
  return typeof value === "number" || typeof value === "boolean" ? value : said(item, field);
}

const isTag = (value: JsonObject): boolean => value.type === "tag" && isJsonObject(value.attrs!);

/** A tag as the item says it, for readers of a language; another tag as it is. */
export function saidTag(tag: Tag, item: LiveItem, lang: string, base: string): Tag {
  const field = itemFieldOf(tag.ref);
  return field === null ? tag : { ...tag, said: itemSays(item, field, lang, base) };
}

/** The same in what is rendered: fields that stood in words written by hand, or in HTML of one's own. */
export const saidIn = (
  { segments }: Markup,
  item: LiveItem,
  lang: string,
  base: string,
): Markup => {
  const isStray = (one: Segment) =>
    typeof one !== "string" &&
    one.slot === "tag" &&
    one.tag.said === undefined &&
    itemFieldOf(one.tag.ref) !== null;
  if (!segments.some(isStray)) return new Markup(segments);
  return new Markup(
    segments.map((one) =>
      typeof one !== "string" && one.slot === "tag"
        ? { ...one, tag: saidTag(one.tag, item, lang, base) }
        : one,
    ),
  );
};

/** Where an address leads that has fields of the item in it; nowhere where that is no address. */
function filledLink(address: Line, item: LiveItem, lang: string, base: string): Json {
  const parts = address.content ?? [];
  const [only] = parts;
  const whole = parts.length === 1 && only?.type === "tag";
  const content = parts.map((part) => {
    if (part.type !== "tag") return part.text ?? "";
    const tag = saidTag(part.attrs as unknown as Tag, item, lang, base);
    if (tag.said === undefined) return tag;
    const words = String(tag.said) || (tag.fallback ?? "");
    return whole ? words : encodeURIComponent(words.toWellFormed());
  });
  const to = linkSchema.safeParse({ kind: "web", address: line(...content) });
  return (to.success ? to.data : { kind: "none" }) as unknown as Json;
}

function fill(value: Json, item: LiveItem, lang: string, base: string): Json {
  if (value === ITEM_PICTURE) return item.picture;
  if (Array.isArray(value)) return value.map((one) => fill(one, item, lang, base));
  if (!isJsonObject(value)) return value;
  if (isTag(value)) {
    const tag = saidTag(value.attrs as unknown as Tag, item, lang, base);
    return { ...value, attrs: tag as unknown as Json };
  }
  if (value.kind === "web" && isJsonObject(value.address!)) {
    return filledLink(value.address as unknown as Line, item, lang, base);
  }
  return Object.fromEntries(
    Object.entries(value).map(([name, one]) => [name, fill(one as Json, item, lang, base)]),
  );
}

const kept = new WeakMap<LiveItem, Map<string, WeakMap<DocNode, DocNode>>>();

/** A block of the design and what it holds, with what the item says, has a picture of and leads to. */
export function filled(node: DocNode, item: LiveItem, lang: string, base: string): DocNode {
  const key = `${lang} ${base}`;
  const byLang = kept.get(item) ?? new Map<string, WeakMap<DocNode, DocNode>>();
  kept.set(item, byLang);
  const known = byLang.get(key) ?? new WeakMap<DocNode, DocNode>();
  byLang.set(key, known);
  let made = known.get(node);
  if (!made) {
    made = {
      ...node,
      props: fill(node.props, item, lang, base) as JsonObject,
      children: node.children.map((child) => filled(child, item, lang, base)),
    };
    known.set(node, made);
  }
  return made;
}
