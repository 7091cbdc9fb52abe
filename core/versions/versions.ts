/**
 * Versions: the distinct emails that come of conditions. Readers for whom the same conditions hold are counted
 * together (`Group`), by whoever can count them; everything about reach follows from those groups.
 */

import { allWithWhen } from "../markup/index.ts";
import type { CompiledEmail } from "../render/index.ts";
import { ruleKey, type Seen, shownBy, type When } from "../text/index.ts";

/** Readers for whom the same conditions hold. */
export interface Group {
  /** A "1" for each condition that holds, in the order of the email's conditions. */
  readonly bits: string;
  readonly people: number;
  /** One of them, by id. */
  readonly sample: number;
}

/** One distinct email. */
export interface Version {
  /** A "1" for each part that is shown; what stands in a hidden part counts as hidden. */
  readonly key: string;
  readonly people: number;
  readonly sample: number;
  /** The bits of the sample. */
  readonly bits: string;
}

/** When each conditional part of an email is shown, each way once; what parts stand in is in it. */
export function partsOf(
  email: Pick<CompiledEmail, "html" | "text" | "subject" | "fromName">,
): When[] {
  const found = new Map<string, When>();
  for (const body of [email.html, email.text, email.subject, email.fromName]) {
    for (const { segment, when } of allWithWhen(body)) {
      if (!when || typeof segment === "string") continue;
      found.set(JSON.stringify([[...when.all].sort(), [...when.none].sort()]), when);
    }
  }
  return [...found.values()];
}

/** The distinct emails that readers get, the most frequent first. */
export function versionsOf(email: CompiledEmail, groups: readonly Group[]): Version[] {
  const parts = partsOf(email).map((when) => shownBy(when, email.conditions));
  const versions = new Map<string, Version>();
  for (const { bits, people, sample } of groups) {
    let key = "";
    for (const isShown of parts) key += isShown(bits) ? "1" : "0";
    const before = versions.get(key);
    versions.set(
      key,
      before ? { ...before, people: before.people + people } : { key, people, sample, bits },
    );
  }
  return [...versions.values()].sort((a, b) => b.people - a.people || (a.key < b.key ? 1 : -1));
}

const sum = (groups: readonly Group[]) => groups.reduce((all, { people }) => all + people, 0);

/** How many readers see a part. */
export const reachOf = (
  when: When | null,
  conditions: readonly string[],
  groups: readonly Group[],
): number => {
  if (!when) return sum(groups);
  const isShown = shownBy(when, conditions);
  return sum(groups.filter(({ bits }) => isShown(bits)));
};

export interface ChainReach {
  /** How many see each alternative. */
  readonly each: readonly number[];
  /** How many see none of them. */
  readonly none: number;
  /** How many more than one would be for; they see the first. */
  readonly several: number;
}

/** How a chain of alternatives falls out. */
export function chainReach(
  chain: readonly Seen[],
  conditions: readonly string[],
  groups: readonly Group[],
): ChainReach {
  const each = chain.map(() => 0);
  const places = chain.map(({ seenBy }) => seenBy && conditions.indexOf(ruleKey(seenBy)));
  let [none, several] = [0, 0];
  for (const { bits, people } of groups) {
    const holds = places.map((at) => at === null || bits[at] === "1");
    const first = holds.indexOf(true);
    if (first < 0) none += people;
    else each[first]! += people;
    // The last resort is for everybody by its nature.
    if (holds.filter((held, i) => held && chain[i]!.seenBy !== null).length > 1) several += people;
  }
  return { each, none, several };
}

/** What somebody is to see, or not to see. */
export interface Wish {
  readonly when: When;
  readonly sees: boolean;
}

/** The most usual reader for whom all of these come true, by id; null where there is none. */
export function someoneWho(
  wishes: readonly Wish[],
  conditions: readonly string[],
  groups: readonly Group[],
): { readonly sample: number; readonly people: number } | null {
  const tests = wishes.map(({ when, sees }) => ({ isShown: shownBy(when, conditions), sees }));
  const fitting = groups.filter(({ bits }) =>
    tests.every(({ isShown, sees }) => isShown(bits) === sees),
  );
  const [first] = [...fitting].sort((a, b) => b.people - a.people);
  return first ? { sample: first.sample, people: sum(fitting) } : null;
}
