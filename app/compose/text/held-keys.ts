/** What is typed while a text is still being made ready is held, and not taken for keys of the composer. */
export interface HeldKeys {
  /** Listens no longer; gives the letters that were typed. */
  release(): string;
}

/** Keys that a text would take: letters, and what takes letters away or moves between them. */
const TAKEN = new Set(["Backspace", "Delete", "Enter", "Home", "End"]);
const taken = ({ key }: KeyboardEvent) =>
  [...key].length === 1 || TAKEN.has(key) || key.startsWith("Arrow");

/** Holds the keys that are pressed in some pages; those with Control, Alt or Command go on. */
export function holdKeys(pages: readonly EventTarget[]): HeldKeys {
  const stop = new AbortController();
  let letters: string[] = [];
  const hold = (event: Event) => {
    const press = event as KeyboardEvent;
    if (press.ctrlKey || press.metaKey || press.altKey || !taken(press)) return;
    press.preventDefault();
    press.stopImmediatePropagation();
    if ([...press.key].length === 1) letters.push(press.key);
    else if (press.key === "Backspace") letters.pop();
  };
  for (const page of pages) {
    page.addEventListener("keydown", hold, { capture: true, signal: stop.signal });
  }
  return {
    release() {
      stop.abort();
      const held = letters.join("");
      letters = [];
      return held;
    },
  };
}
