/** Leads to the very control of a value, or to its words on the sheet. */
import type { Selection } from "../selection/selection.ts";

/** How long settings may take to be there before it is taken for words of the sheet, ms. */
const PATIENCE = 500;
const CONTROLS = "[role=textbox], input:not([type=hidden]), [role=combobox], textarea, button";

/**
 * The control of the value at a path (`envelope.subject`) in the settings that stand there, or of what that value is
 * part of (`link.address` is set with `link`); null while there is none.
 */
export function fieldOf(path: string): HTMLElement | null {
  const way = path.split(".");
  for (let length = way.length; length > 0; length--) {
    const name = CSS.escape(way.slice(0, length).join("."));
    const field = document.querySelector(`[data-line="${name}"], [data-field="${name}"]`);
    const control = field?.querySelector<HTMLElement>(CONTROLS);
    if (control) return control;
  }
  return null;
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
