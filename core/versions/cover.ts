/**
 * The smallest set of versions in which all there is to see is seen: every part shown and not shown, every language;
 * or every two of these together (pairwise covering). Exact for few versions, else the best of a greedy search.
 */
import type { Version } from "./versions.ts";

/** What is seen in a version: each part as it is there, and the language. */
function traitsOf({ key, lang }: Version): string[] {
  const shown = [...key.slice(lang.length + 1)].flatMap((bit, i) =>
    bit === "-" ? [] : `${i}${bit}`,
  );
  return [`:${lang}`, ...shown];
}

function pairsOf(traits: readonly string[]): string[] {
  const pairs = [...traits];
  for (const [i, one] of traits.entries()) {
    for (const other of traits.slice(i + 1)) pairs.push(`${one} ${other}`);
  }
  return pairs;
}

/** Each version's traits as numbers, and how many there are in all. */
function numbered(
  versions: readonly Version[],
  pairs: boolean,
): { sets: number[][]; count: number } {
  const numbers = new Map<string, number>();
  const sets = versions.map((version) => {
    const traits = traitsOf(version);
    return (pairs ? pairsOf(traits) : traits).map((trait) => {
      const known = numbers.get(trait) ?? numbers.size;
      numbers.set(trait, known);
      return known;
    });
  });
  return { sets, count: numbers.size };
}

/** Takes what adds most, again and again; then leaves out what the others have anyway. */
function greedy(sets: readonly (readonly number[])[], count: number): number[] {
  const seen = new Uint32Array(count);
  const taken: number[] = [];
  let missing = count;
  while (missing > 0) {
    let [best, most] = [-1, 0];
    for (const [i, set] of sets.entries()) {
      let adds = 0;
      for (const trait of set) if (seen[trait] === 0) adds++;
      if (adds > most) [best, most] = [i, adds];
    }
    taken.push(best);
    missing -= most;
    for (const trait of sets[best]!) seen[trait]!++;
  }
  for (const one of [...taken].reverse()) {
    if (sets[one]!.some((trait) => seen[trait]! < 2)) continue;
    for (const trait of sets[one]!) seen[trait]!--;
    taken.splice(taken.indexOf(one), 1);
  }
  return taken;
}

/** How many versions the exact search may try before the greedy answer stands. */
const STEPS = 20_000;

/** A set that is smaller than `most`, if there is one: by the trait that fewest versions have. */
function smaller(
  sets: readonly (readonly number[])[],
  count: number,
  most: number,
): number[] | null {
  const having: number[][] = Array.from({ length: count }, () => []);
  for (const [i, set] of sets.entries()) for (const trait of set) having[trait]!.push(i);
  const largest = Math.max(...sets.map((set) => set.length));
  const seen = new Uint32Array(count);
  let steps = 0;
  const search = (taken: number[], missing: number, room: number): number[] | null => {
    if (missing === 0) return taken;
    if (room * largest < missing) return null;
    let rarest = -1;
    for (let trait = 0; trait < count; trait++) {
      if (seen[trait]! > 0) continue;
      if (rarest < 0 || having[trait]!.length < having[rarest]!.length) rarest = trait;
    }
    for (const one of having[rarest]!) {
      if (++steps > STEPS) return null;
      let adds = 0;
      for (const trait of sets[one]!) if (seen[trait]!++ === 0) adds++;
      const found = search([...taken, one], missing - adds, room - 1);
      for (const trait of sets[one]!) seen[trait]!--;
      if (found) return found;
    }
    return null;
  };
  return search([], count, most - 1);
}

/** As few of the versions as show everything, the most frequent first; `pairs`: every two things together. */
export function smallestSet(
  versions: readonly Version[],
  { pairs = false } = {},
): readonly Version[] {
  if (versions.length < 2) return versions;
  const { sets, count } = numbered(versions, pairs);
  let best = greedy(sets, count);
  for (let less = smaller(sets, count, best.length); less; ) {
    best = less;
    less = smaller(sets, count, best.length);
  }
  return best.sort((a, b) => a - b).map((i) => versions[i]!);
}
