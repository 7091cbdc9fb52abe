/**
 * Choosing items: a pure function of the items, the reader and the clock, the same on the sheet, in the proof and in
 * the send. What is the same for all readers is done once.
 */
import { fold } from "../fields/index.ts";
import type { Json } from "../json.ts";
import { type Choice, isPersonal } from "./choice.ts";
import { type LiveItem, refOfItem } from "./item.ts";
import { inStock } from "./kinds/catalogue.ts";
import { itemKindOf } from "./kinds/index.ts";
import { type Counts, orderOf, type Past, type Ranked } from "./orders.ts";

/** A reader as choosing sees them. */
export interface ChoosingReader {
  readonly values: { readonly [ref: string]: Json | undefined };
  readonly past: Past;
}

/** What choosing knows besides the items. */
export interface ChoosingWorld {
  /** ms since 1970 */
  readonly now: number;
  readonly zone: string;
  readonly counts: Counts;
  /** Items that campaigns have sent, by `itemRef`. */
  readonly sent: ReadonlySet<string>;
}

export type Chosen = Ranked;
/** Gives the items of a choice for a reader, or for nobody; never one of those taken. */
export type Chooser = (reader: ChoosingReader | null, taken?: ReadonlySet<string>) => Chosen[];

const DAY_MS = 86_400_000;

/** What a value says, each of several by itself. Values of readers stand as tags write them, one after another. */
function sayings(value: Json | undefined): string[] {
  if (Array.isArray(value)) return value.map((one) => fold(String(one)));
  if (value === null || value === undefined || typeof value === "object") return [];
  return String(value)
    .split(",")
    .map((one) => fold(one.trim()))
    .filter((one) => one !== "");
}

/** Whether two values say the same, or share one of several. */
export function sayTheSame(item: Json | undefined, reader: Json | undefined): boolean {
  const theirs = new Set(sayings(reader));
  return sayings(item).some((one) => theirs.has(one));
}

/** Those of a pool that can be chosen at all at this moment; what fits the rule is in the pool alone. */
function eligible(
  pool: readonly LiveItem[],
  choice: Choice,
  { now, sent }: ChoosingWorld,
): LiveItem[] {
  const oldest =
    choice.newerThan === null ? Number.NEGATIVE_INFINITY : now - choice.newerThan * DAY_MS;
  return pool.filter((item) => {
    const ends = itemKindOf(item.kind).ends?.(item);
    return (
      item.at >= oldest &&
      !(ends !== undefined && ends !== null && ends < now) &&
      !(choice.inStock && !inStock(item)) &&
      !(choice.unsent && sent.has(refOfItem(item)))
    );
  });
}

/** Makes the chooser of a choice; `pool` holds the items of its sources that fit its rule. */
export function chooser(choice: Choice, pool: readonly LiveItem[], world: ChoosingWorld): Chooser {
  if (choice.picked) {
    const known = new Map(pool.map((item) => [refOfItem(item), item]));
    const items = choice.picked.flatMap((one) => known.get(refOfItem(one)) ?? []);
    return () => items.map((item) => ({ item, why: "picked by hand" }));
  }
  const fitting = eligible(pool, choice, world);
  const by = { days: choice.days, now: world.now, zone: world.zone, counts: world.counts };
  const first = orderOf(choice.order).rank(fitting, by);
  const then = choice.fill === null ? null : orderOf(choice.fill).rank(fitting, by);
  const { match } = choice;

  return (reader, taken) => {
    const bought = choice.unbought
      ? new Set(reader?.past.bought.map(({ item }) => item) ?? [])
      : null;
    const theirs = match ? reader?.values[`contact:${match.reader}`] : undefined;
    const used = new Set<string>();
    const sources = new Set<string>();
    const chosen: Chosen[] = [];
    let toSkip = choice.skip;
    const take = (ranked: readonly Ranked[], before: string) => {
      for (const { item, why } of ranked) {
        if (chosen.length >= choice.count) return;
        const ref = refOfItem(item);
        if (used.has(ref) || taken?.has(ref) || bought?.has(ref)) continue;
        if (match && !sayTheSame(item.values[match.field], theirs)) continue;
        if (choice.onePerSource && sources.has(item.source)) continue;
        used.add(ref);
        if (toSkip > 0) {
          toSkip--;
          continue;
        }
        sources.add(item.source);
        chosen.push({ item, why: before + why });
      }
    };
    take(first(reader?.past ?? null), "");
    if (then) take(then(reader?.past ?? null), "to fill up: ");
    return chosen;
  };
}

/** The items of all that chooses in an email. */
export interface Plan {
  /** What is the same for all readers, by node. */
  readonly fixed: ReadonlyMap<string, readonly Chosen[]>;
  /** Where each reader has items of their own: all that anybody can have, by node. */
  readonly personal: ReadonlyMap<string, readonly LiveItem[]>;
  /** What a reader has there, or somebody of whom nothing is known; by node. */
  forReader(reader: ChoosingReader | null): Map<string, readonly Chosen[]>;
}

/** A choice of an email, with the items of its sources that fit its rule. */
export interface Planned {
  readonly node: string;
  readonly choice: Choice;
  readonly pool: readonly LiveItem[];
}

/**
 * Plans the choices of an email, which come top to bottom. No item that was chosen by rule stands in it twice: what was
 * picked by hand comes first, then what is the same for all, then what is each reader's own.
 */
export function planChoices(all: readonly Planned[], world: ChoosingWorld): Plan {
  const fixed = new Map<string, readonly Chosen[]>();
  const taken = new Set<string>();
  const take = (chosen: readonly Chosen[], into: Set<string>) => {
    for (const { item } of chosen) into.add(refOfItem(item));
  };
  const personal: { node: string; choose: Chooser; pool: readonly LiveItem[] }[] = [];
  const byHand = all.filter(({ choice }) => choice.picked);
  const byRule = all.filter(({ choice }) => !choice.picked);
  for (const { node, choice, pool } of [...byHand, ...byRule]) {
    const choose = chooser(choice, pool, world);
    if (isPersonal(choice)) {
      personal.push({ node, choose, pool: eligible(pool, choice, world) });
      continue;
    }
    const chosen = choose(null, taken);
    take(chosen, taken);
    fixed.set(node, chosen);
  }
  return {
    fixed,
    personal: new Map(personal.map(({ node, pool }) => [node, pool])),
    forReader(reader) {
      const theirs = personal.length > 1 ? new Set(taken) : taken;
      return new Map(
        personal.map(({ node, choose }) => {
          const chosen = choose(reader, theirs);
          if (theirs !== taken) take(chosen, theirs);
          return [node, chosen];
        }),
      );
    },
  };
}
