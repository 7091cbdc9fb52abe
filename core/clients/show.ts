/** An email as a family of mail programs shows it. */
import type { Act, Family, Lost, ShownBy } from "./family.ts";
import { readPage, writePage } from "./page.ts";

/** Applies acts in their order: those on the HTML as it comes, those on the tree, those on what is shown. */
export function enact(acts: readonly Act[], html: string): ShownBy {
  const places = new Map<Act, number>();
  let now = html;
  for (const act of acts) {
    const done = act.before?.(now);
    if (done) {
      now = done.html;
      places.set(act, done.places);
    }
  }
  if (acts.some(({ on }) => on)) {
    const page = readPage(now);
    for (const act of acts) if (act.on) places.set(act, act.on(page));
    now = writePage(page);
  }
  for (const act of acts) {
    const done = act.after?.(now);
    if (done) {
      now = done.html;
      places.set(act, done.places);
    }
  }
  const lost = new Map<string, number>();
  for (const act of acts) {
    const own = places.get(act) ?? 0;
    if (own > 0 && act.loses) lost.set(act.loses, (lost.get(act.loses) ?? 0) + own);
  }
  return {
    html: now,
    lost: [...lost].map(([what, count]): Lost => ({ what, places: count })),
  };
}

/** Finished HTML as a family shows it, and what was lost on the way. */
export const showIn = (family: Family, html: string): ShownBy => enact(family.acts, html);
