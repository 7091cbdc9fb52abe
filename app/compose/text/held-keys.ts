/** What hands do to a text that is still being made ready is held, and not taken for keys of the composer. */
import { LIMITS } from "#core/limits.ts";
import { NOTHING_TYPED, type Typed } from "#core/text/typed.ts";
import { inField } from "../keys/keys.ts";

export interface HeldKeys {
  /** Listens no longer; gives what was typed. */
  release(): Typed;
}

/** Beside letters, the keys that a text would take: what takes letters away, or moves between them. */
const TAKEN = new Set(["Backspace", "Delete", "Enter", "Home", "End"]);
const isLetter = (key: string) => [...key].length === 1;
const isTaken = (key: string) => isLetter(key) || TAKEN.has(key) || key.startsWith("Arrow");

const withWords = ({ words, replaces, selects }: Typed, more: string): Typed => ({
  words: selects ? more : words + more,
  replaces: replaces || selects,
  selects: false,
});

function withKey(typed: Typed, key: string): Typed {
  if (isLetter(key)) return withWords(typed, key);
  if (typed.selects && (key === "Backspace" || key === "Delete")) return withWords(typed, "");
  const { words } = typed;
  return {
    ...typed,
    words: key === "Backspace" ? [...words].slice(0, -1).join("") : words,
    selects: false,
  };
}

/**
 * Holds the keys that are pressed in some pages, and the words that are pasted there. Keys with Control, Alt or
 * Command go on, but for the one that selects all. `onLeave`: Escape was pressed, or another field has the focus;
 * without it Escape goes on too.
 */
export function holdKeys(pages: readonly EventTarget[], onLeave?: () => void): HeldKeys {
  const stop = new AbortController();
  let typed = NOTHING_TYPED;
  const keep = (event: Event) => {
    event.preventDefault();
    event.stopImmediatePropagation();
  };
  const press = (event: KeyboardEvent) => {
    const { key } = event;
    // On many keyboards the third level of a key is Control and Alt to the browser, and a letter to whoever types.
    const third = event.getModifierState?.("AltGraph") && isLetter(key);
    const mod = !third && (event.ctrlKey || event.metaKey);
    if (mod && key.toLowerCase() === "a") {
      keep(event);
      typed = { ...typed, selects: true };
    } else if (mod || (event.altKey && !third)) {
      return;
    } else if (key === "Escape" && onLeave) {
      keep(event);
      onLeave();
    } else if (isTaken(key)) {
      keep(event);
      typed = withKey(typed, key);
    }
  };
  const paste = (event: ClipboardEvent) => {
    const words = event.clipboardData?.getData("text/plain").slice(0, LIMITS.pasteText);
    if (!words) return;
    keep(event);
    typed = withWords(typed, words.replace(/\s+/g, " "));
  };
  for (const page of pages) {
    const how = { capture: true, signal: stop.signal };
    page.addEventListener("keydown", (event) => press(event as KeyboardEvent), how);
    page.addEventListener("paste", (event) => paste(event as ClipboardEvent), how);
    page.addEventListener("focusin", ({ target }) => inField(target) && onLeave?.(), how);
  }
  return {
    release() {
      stop.abort();
      const held = typed;
      typed = NOTHING_TYPED;
      return held;
    },
  };
}
