/**
 * When a part of an email is shown. Parts that stand beside each other can form a chain: the first whose rule
 * holds is shown, and none of the others. Rules stand here as their canonical text, so that equal ones are
 * looked at once.
 */
import { canonical, sameJson } from "../json.ts";
import { EVERYBODY, type Rule } from "../rules/index.ts";
import type { TextJson } from "./schema.ts";

/** Shown where all of `all` hold and none of `none`. */
export interface When {
  readonly all: readonly string[];
  readonly none: readonly string[];
}

/** Who sees a part: null for everybody; and the chain it is an alternative of, or null. */
export interface Seen {
  readonly seenBy: Rule | null;
  readonly chain: string | null;
}

const keys = new WeakMap<object, string>();
/** A rule as text, spelled once for each rule that is kept. */
export function ruleKey(rule: Rule): string {
  let key = keys.get(rule);
  if (key === undefined) {
    key = canonical(rule);
    keys.set(rule, key);
  }
  return key;
}
/** What the last of a chain without a rule of its own stands for. */
export const EVERYBODY_KEY = canonical(EVERYBODY);

const isAlways = (when: When) => when.all.length === 0 && when.none.length === 0;

/** When each of some neighbours is shown; null for always. */
export function whensOf(parts: readonly (Seen | null)[]): (When | null)[] {
  const before = new Map<string, string[]>();
  return parts.map((part) => {
    if (!part) return null;
    const key = part.seenBy ? ruleKey(part.seenBy) : null;
    const others = part.chain === null ? [] : [...(before.get(part.chain) ?? [])];
    if (part.chain !== null) before.set(part.chain, [...others, key ?? EVERYBODY_KEY]);
    const when = { all: key ? [key] : [], none: others };
    return isAlways(when) ? null : when;
  });
}

/** Both at once: what stands in a part that is itself shown to some only. */
export const whenBoth = (outer: When | null, inner: When | null): When | null => {
  if (!outer || !inner) return outer ?? inner;
  const union = (a: readonly string[], b: readonly string[]) => [...new Set([...a, ...b])];
  return { all: union(outer.all, inner.all), none: union(outer.none, inner.none) };
};

const HOLDS = "1".charCodeAt(0);

/** The test whether somebody sees a part, made once for many; bits have a "1" for each of the conditions that holds. */
export function shownBy(when: When, conditions: readonly string[]): (bits: string) => boolean {
  // A condition that is not among them holds for nobody.
  const all = when.all.map((key) => conditions.indexOf(key));
  const none = when.none.map((key) => conditions.indexOf(key)).filter((at) => at >= 0);
  if (all.includes(-1)) return () => false;
  return (bits) => {
    for (let i = 0; i < all.length; i++) if (bits.charCodeAt(all[i]!) !== HOLDS) return false;
    for (let i = 0; i < none.length; i++) if (bits.charCodeAt(none[i]!) === HOLDS) return false;
    return true;
  };
}

/** Whether somebody sees a part, for the odd single use. */
export const isShownTo = (when: When, conditions: readonly string[], bits: string): boolean =>
  shownBy(when, conditions)(bits);

/** Who sees a part of a text; null for everybody. */
export const seenOf = (part: TextJson): Seen | null =>
  (part.marks?.find((mark) => mark.type === "who")?.attrs as unknown as Seen | undefined) ?? null;

/** Inline content in runs that the same readers see. */
export function seenRuns(
  content: readonly TextJson[],
): { seen: Seen | null; when: When | null; parts: TextJson[] }[] {
  const groups: { seen: Seen | null; parts: TextJson[] }[] = [];
  for (const part of content) {
    const seen = seenOf(part);
    const last = groups.at(-1);
    if (last && sameJson(last.seen, seen)) last.parts.push(part);
    else groups.push({ seen, parts: [part] });
  }
  const whens = whensOf(groups.map(({ seen }) => seen));
  return groups.map((group, i) => ({ ...group, when: whens[i]! }));
}
