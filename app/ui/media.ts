/** What the window is like. */
import { useSyncExternalStore } from "react";

/** The windows that screens tell apart: a phone, where the composer is only read (a laptop at 200 % is none), and where it has room to spare. */
export const SMALL = "(max-width: 560px)";
export const ROOMY = "(min-width: 1536px)";
/** A whole screen of 1920 px. */
export const WIDE = "(min-width: 1900px)";

/** Whether a media query holds; on the server none does. */
export function useMedia(query: string): boolean {
  return useSyncExternalStore(
    (changed) => {
      const list = matchMedia(query);
      list.addEventListener("change", changed);
      return () => list.removeEventListener("change", changed);
    },
    () => matchMedia(query).matches,
    () => false,
  );
}
