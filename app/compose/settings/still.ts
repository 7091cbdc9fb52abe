/**
 * Keeps what is under a hand where it is: what the checks find comes and goes above the settings, and must not move
 * a control that somebody is about to click, or from which a menu hangs.
 */
import { type RefObject, useLayoutEffect, useRef } from "react";

interface Still {
  /** On what scrolls. */
  readonly panel: RefObject<HTMLElement | null>;
  /** On what comes and goes; it is always there, and without height while there is nothing in it. */
  readonly notes: RefObject<HTMLDivElement | null>;
  /** On room at the end: without it a short panel could not scroll. */
  readonly room: RefObject<HTMLDivElement | null>;
  /** The hand leaves: what has come is shown, and the room of what has gone is given up. */
  leave(): void;
}

/** A hand is in the panel, or in what it has opened there. */
const inHand = (panel: HTMLElement): boolean =>
  panel.matches(":hover") || document.querySelector("[data-radix-popper-content-wrapper]") !== null;

/** `of` names what the settings are of, `said` what stands in the notes: they are measured when either is another. */
export function useStill(of: string | null, said: string): Still {
  const panel = useRef<HTMLElement>(null);
  const notes = useRef<HTMLDivElement>(null);
  const room = useRef<HTMLDivElement>(null);
  /** How high the notes stand, and how far was scrolled for them, px. */
  const held = useRef({ of, height: 0, scrolled: 0 });

  const scroll = (by: number) => {
    const [scroller, end] = [panel.current!, room.current!];
    const from = scroller.scrollTop;
    end.style.height = "0";
    const missing = from + by - (scroller.scrollHeight - scroller.clientHeight);
    end.style.height = `${Math.max(0, missing)}px`;
    scroller.scrollTop = from + by;
    return scroller.scrollTop - from;
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: another thing may say the same
  useLayoutEffect(() => {
    if (!panel.current || !notes.current || !room.current) return;
    const { style } = notes.current;
    style.minHeight = "";
    const height = notes.current.offsetHeight;
    const before = held.current;
    if (before.of !== of || !inHand(panel.current)) {
      held.current = { of, height, scrolled: 0 };
      room.current.style.height = "0";
      return;
    }
    // What goes leaves its room; what comes waits above.
    style.minHeight = `${before.height}px`;
    const more = Math.max(0, height - before.height);
    const scrolled = before.scrolled + (more > 0 ? scroll(more) : 0);
    held.current = { of, height: before.height + more, scrolled };
  }, [of, said]);
  return {
    panel,
    notes,
    room,
    leave() {
      if (!panel.current || !notes.current || inHand(panel.current)) return;
      notes.current.style.minHeight = "";
      if (held.current.scrolled > 0) scroll(-held.current.scrolled);
      held.current = { ...held.current, height: notes.current.offsetHeight, scrolled: 0 };
    },
  };
}
