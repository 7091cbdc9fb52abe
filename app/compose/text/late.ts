/** Writing takes much that reading does not: it is loaded when a hand first moves, before anybody can have clicked into a text. */
import { late } from "#core/late.ts";

export const editing = late(() => import("./editing.ts"));

/** Said to somebody who wants to write where it could not be. */
export const NOT_LOADED = "Writing could not be loaded. Please try again.";

/** Signs of a hand. */
const STIRS = ["pointermove", "pointerdown", "keydown", "focusin"] as const;

/** After so long it comes by itself, ms: a line that is cut later finds it there. */
const QUIET_MS = 3_000;

/** Loads it with the first move in a page; a text that is begun later asks again where that failed. */
export function loadAtFirstMove(page: Document, signal: AbortSignal): void {
  const load = () => void editing.load().catch(() => {});
  for (const kind of STIRS) {
    page.addEventListener(kind, load, { signal, once: true, passive: true });
  }
  const timer = setTimeout(load, QUIET_MS);
  signal.addEventListener("abort", () => clearTimeout(timer));
}
