/** Whether something that everybody needs is seen by everybody, at every width. */
import type { Show } from "../kinds/common.ts";
import { EVERYBODY_KEY, isShownTo, type When } from "../text/index.ts";
import type { KnownReaders } from "./check.ts";

export interface ShownPlace {
  readonly when: When | null;
  readonly show: Show;
}

/** Conditions looked at in every combination; with more the answer is that nobody can tell. */
const MOST = 14;

/** Whether one of some parts is shown whatever the conditions are. */
function anyAlways(whens: readonly (When | null)[]): boolean {
  if (whens.some((when) => when === null)) return true;
  const all = whens as readonly When[];
  const keys = [...new Set(all.flatMap((when) => [...when.all, ...when.none]))];
  const free = keys.filter((key) => key !== EVERYBODY_KEY);
  if (all.length === 0 || free.length > MOST) return false;
  const conditions = [...free, EVERYBODY_KEY];
  for (let mask = 0; mask < 1 << free.length; mask++) {
    const bits = `${free.map((_, i) => (mask & (1 << i) ? "1" : "0")).join("")}1`;
    if (!all.some((when) => isShownTo(when, conditions, bits))) return false;
  }
  return true;
}

const at = (places: readonly ShownPlace[], width: "wide" | "narrow") =>
  places.filter(({ show }) => show === "both" || show === width).map(({ when }) => when);

/** Null where one of the places is always seen; else what hides them all: a width, or who sees them. */
export function coveredAlways(places: readonly ShownPlace[]): "width" | "readers" | null {
  if (anyAlways(at(places, "wide")) && anyAlways(at(places, "narrow"))) return null;
  return anyAlways(places.map(({ when }) => when)) ? "width" : "readers";
}

/** How many of the readers that are known see none of the places, at one of the widths. */
export function neverSeen(places: readonly ShownPlace[], readers: KnownReaders | null): number {
  if (!readers) return 0;
  const sees = (width: "wide" | "narrow", bits: string) =>
    at(places, width).some((when) => when === null || isShownTo(when, readers.conditions, bits));
  return readers.groups
    .filter(({ bits }) => !sees("wide", bits) || !sees("narrow", bits))
    .reduce((sum, { people }) => sum + people, 0);
}
