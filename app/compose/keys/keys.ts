/** The composer's keys, wherever the focus is outside a text. */
import { find } from "#core/document/index.ts";
import type { Placing } from "../placing/placing.ts";
import { KEYS, type KeyParts, type Pressed } from "./list.ts";

export interface Keys {
  /** Does what a key asks for; gives whether it was one of ours. */
  press(event: KeyboardEvent): boolean;
  /** Whether a key is ours in the middle of a text too. */
  alsoInTexts(event: KeyboardEvent): boolean;
}

/** Whether a key press belongs to a field, a menu or a button rather than to the sheet. */
export function inField(target: EventTarget | null): boolean {
  const element = target as HTMLElement | null;
  return Boolean(
    element?.closest?.(
      "input, textarea, select, [contenteditable=true], [role=textbox], [role=listbox], [role=dialog], [role=menu]",
    ),
  );
}

/** The running order takes the arrows; so do the sheets, where nothing else does. */
const inTree = (target: EventTarget | null) => {
  const element = target as HTMLElement | null;
  return (
    Boolean(element?.closest?.("[role=tree]")) || element?.ownerDocument.title !== document.title
  );
};
const onButton = (target: EventTarget | null) =>
  Boolean((target as HTMLElement | null)?.closest?.("button, a[href]"));

/** A dialog lies over everything: what is behind it does not move. */
const behindDialog = () => document.querySelector("[data-modal][data-state=open]") !== null;

/** A key with what is held down, as the list names it. */
export function nameOfKey(event: KeyboardEvent): string {
  const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
  const held = [
    (event.ctrlKey || event.metaKey) && "Mod",
    event.altKey && "Alt",
    event.shiftKey && "Shift",
  ];
  return [...held.filter(Boolean), key === " " ? "Space" : key].join("+");
}

export function createKeys(parts: KeyParts & { readonly placing: Placing }): Keys {
  const named = (event: KeyboardEvent) =>
    KEYS.filter(({ keys }) => keys.split(", ").includes(nameOfKey(event)));
  return {
    alsoInTexts: (event) => named(event).some(({ where }) => where === "texts"),
    press(event) {
      if (behindDialog()) return false;
      if (parts.placing.key(event)) return true;
      const { selected, chosen } = parts.selection.store.getState();
      const { doc } = parts.reading.store.getState();
      const node = (selected && find(doc, selected)?.node) || null;
      const field = inField(event.target);
      const tree = inTree(event.target);
      for (const { where, needs, run } of named(event)) {
        if (field && where !== "texts" && where !== "fields") continue;
        if (where === "tree" && !tree) continue;
        if (where === "outside buttons" && onButton(event.target)) continue;
        if (needs === "node" && !node) continue;
        const pressed: Pressed = { doc, selected, chosen, node: node!, shift: event.shiftKey };
        const work = run(pressed, parts);
        if (!work) continue;
        event.preventDefault();
        work();
        return true;
      }
      return false;
    },
  };
}
