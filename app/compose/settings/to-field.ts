/** Leads to the very control of a value, or to its words on the sheet. */
import type { Selection } from "../selection/selection.ts";

/** How long settings may take to be there before it is taken for words of the sheet, ms. */
const PATIENCE = 500;
const CONTROLS = "[role=textbox], input:not([type=hidden]), [role=combobox], textarea, button";

/** The control of the value at a path (`envelope.subject`) in the settings that stand there; null while there is none. */
export function fieldOf(path: string): HTMLElement | null {
  const name = CSS.escape(path);
  const field = document.querySelector(`[data-line="${name}"], [data-field="${name}"]`);
  return field?.querySelector<HTMLElement>(CONTROLS) ?? null;
}

/** Puts the focus there once it stands; words that are written on the sheet are begun there. Gives the way to stop. */
export function leadToField(
  path: string,
  node: string,
  selection: Pick<Selection, "write">,
): () => void {
  const latest = performance.now() + PATIENCE;
  let timer: ReturnType<typeof setTimeout>;
  const look = () => {
    const control = fieldOf(path);
    if (control) {
      control.scrollIntoView({ block: "center" });
      control.focus();
    } else if (performance.now() < latest) timer = setTimeout(look, 60);
    else if (node !== "envelope") selection.write(node);
  };
  look();
  return () => clearTimeout(timer);
}
