/** The two sheets scroll together: the same band stands at the same height on both. */
import { type RefObject, useEffect, useRef } from "react";
import type { SheetName, Views } from "./views.ts";

/** The height on one sheet that shows what stands at a height of the other; both begin and end together. */
export function counterpart(y: number, from: readonly number[], to: readonly number[]): number {
  if (from.length !== to.length || from.length < 2) return y;
  const after = from.findIndex((mark) => mark > y);
  const i = after === -1 ? from.length - 1 : Math.max(1, after);
  const span = from[i]! - from[i - 1]!;
  const share = span > 0 ? (y - from[i - 1]!) / span : 0;
  return to[i - 1]! + share * (to[i]! - to[i - 1]!);
}

/** How far down a pane the point lies that is kept level: a third. */
const LEVEL = 1 / 3;

export function useScrollTogether(
  together: boolean,
  views: Views,
  panes: RefObject<Record<SheetName, HTMLElement | null>>,
  scale: number,
): void {
  const set = useRef<{ pane: HTMLElement; top: number } | null>(null);
  useEffect(() => {
    if (!together) return;
    const follow = (name: SheetName, other: SheetName) => () => {
      const [pane, follower] = [panes.current[name], panes.current[other]];
      const [view, otherView] = [views.get(name), views.get(other)];
      if (!pane || !follower || !view || !otherView) return;
      // What was set from here is not followed back.
      if (set.current?.pane === pane && Math.abs(set.current.top - pane.scrollTop) < 2) return;
      const level = pane.clientHeight * LEVEL;
      const room = pane.scrollHeight - pane.clientHeight;
      const end = follower.scrollHeight - follower.clientHeight;
      const y = (pane.scrollTop + level) / scale;
      const top = counterpart(y, view.bandTops(), otherView.bandTops()) * scale - level;
      follower.scrollTop = pane.scrollTop <= 0 ? 0 : pane.scrollTop >= room - 1 ? end : top;
      set.current = { pane: follower, top: follower.scrollTop };
    };
    const ways = [
      [panes.current.wide, follow("wide", "narrow")],
      [panes.current.narrow, follow("narrow", "wide")],
    ] as const;
    for (const [pane, listener] of ways) pane?.addEventListener("scroll", listener);
    return () => {
      for (const [pane, listener] of ways) pane?.removeEventListener("scroll", listener);
    };
  }, [together, views, panes, scale]);
}
