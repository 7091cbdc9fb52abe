/** The items of sources that an email showed at a moment, and what has come of them since. */
import { z } from "zod";
import { refOfItem } from "../items/index.ts";
import { canonical, fingerprint } from "../json.ts";
import type { Surroundings } from "../kinds/kind.ts";
import { shownItems } from "../kinds/shown-items.ts";

export const liveStateSchema = z.array(
  z.object({ ref: z.string(), title: z.string(), mark: z.string() }),
);
/** Each item once, with a mark of all it says. */
export type LiveState = Readonly<z.infer<typeof liveStateSchema>>;

/** The items an email shows, whatever block they stand in. */
export function liveStateOf(around: Pick<Surroundings, "items" | "live">): LiveState {
  const shown = new Map(shownItems(around).map((item) => [refOfItem(item), item]));
  return [...shown].map(([ref, item]) => ({
    ref,
    title: item.title,
    mark: fingerprint(canonical(item)),
  }));
}

/** What is otherwise now, in words; empty where nothing is. */
export function liveChanges(before: LiveState, now: LiveState): string[] {
  const earlier = new Map(before.map((one) => [one.ref, one]));
  const later = new Map(now.map((one) => [one.ref, one]));
  return [
    ...now.flatMap(({ ref, title, mark }) => {
      const known = earlier.get(ref);
      if (!known) return [`“${title}” has come`];
      return known.mark === mark ? [] : [`“${title}” has changed`];
    }),
    ...before.flatMap(({ ref, title }) => (later.has(ref) ? [] : [`“${title}” is gone`])),
  ];
}
