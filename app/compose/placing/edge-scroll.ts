/** Scrolls what is under a drag when it comes near the upper or lower edge. */

/** How near to an edge scrolling begins, and how far it goes in a frame at the edge itself, px. */
const NEAR = 56;
const FASTEST = 18;

/** Scrolls a pane one step for a pointer at `y` of the window; gives whether it moved. */
export function edgeScroll(pane: Element, y: number): boolean {
  const { top, bottom } = pane.getBoundingClientRect();
  const share = y < top + NEAR ? (y - top - NEAR) / NEAR : Math.max(0, (y - bottom + NEAR) / NEAR);
  if (share === 0 || y < top || y > bottom) return false;
  const before = pane.scrollTop;
  pane.scrollTop += Math.round(share * FASTEST);
  return pane.scrollTop !== before;
}
