/** The composer's keys, wherever the focus is outside a text. */
import { nodeKind, textsOf } from "#core/blocks/index.ts";
import { type DocNode, find, isItem, pathTo, walk } from "#core/document/index.ts";
import { duplicate, readingOrder, shift, takeOut } from "../actions.ts";
import type { Composer } from "../context.ts";
import { intoBand, intoCard } from "../grouping.ts";
import { copyStyle, pasteStyle } from "../style.ts";

/** Whether a key press belongs to a field, a menu or a button rather than to the sheet. */
export function inField(target: EventTarget | null): boolean {
  const element = target as HTMLElement | null;
  return Boolean(
    element?.closest?.(
      "input, textarea, select, [contenteditable=true], [role=dialog], [role=menu]",
    ),
  );
}

/** Does what a key asks for; gives whether it was one of ours. */
export function handleKey(event: KeyboardEvent, composer: Composer): boolean {
  const mod = event.ctrlKey || event.metaKey;
  const done = (work: () => void) => {
    event.preventDefault();
    work();
    return true;
  };
  if (composer.placing.key(event)) return true;
  // The list of blocks opens from anywhere, a sheet and a field too.
  if (mod && event.key === "Enter") return done(() => composer.openList());
  if (mod && event.key.toLowerCase() === "f") return done(() => composer.openFind());
  if (inField(event.target)) return false;
  const key = event.key.toLowerCase();
  if (mod && key === "z") {
    return done(() => void (event.shiftKey ? composer.session.redo() : composer.session.undo()));
  }
  if (mod && key === "y") return done(() => void composer.session.redo());

  const { doc, selected, chosen } = composer;
  if (mod && key === "a" && inTree(event.target)) {
    return done(() => composer.select(doc.root.children.map((band) => band.id)));
  }
  const node = selected ? find(doc, selected)?.node : undefined;
  if (event.key === "ArrowDown" || event.key === "ArrowUp") {
    const by = event.key === "ArrowDown" ? 1 : -1;
    if (event.altKey) {
      return node ? done(() => composer.run(shift(doc, chosen, by))) : false;
    }
    if (!inTree(event.target)) return false;
    const order = ["envelope", ...readingOrder(doc, selected).map((one) => one.id)];
    const at = order.indexOf(selected ?? "envelope");
    const next = order[at + by];
    return done(() => next && composer.select(next, event.shiftKey ? "range" : "one"));
  }
  if (!node) return false;
  if (inTree(event.target) && event.key === "ArrowRight") {
    const first = node.children.find((child) => child.type !== "column" || child.children.length);
    const into = first?.type === "column" ? first.children[0] : first;
    return into ? done(() => composer.select(into.id)) : false;
  }
  if (inTree(event.target) && event.key === "ArrowLeft") {
    const path = pathTo(doc, node.id).filter((one) => one.type !== "column" && one !== doc.root);
    const above = path.at(-2);
    return above ? done(() => composer.select(above.id)) : false;
  }
  if (mod && event.altKey && key === "c") return done(() => composer.announce(copyStyle(node)));
  if (mod && event.altKey && key === "v") {
    return done(() => composer.run(pasteStyle(doc, chosen)));
  }
  if (mod && key === "d") return done(() => composer.run(duplicate(doc, chosen)));
  if (mod && key === "g") {
    return done(() => composer.run((event.shiftKey ? intoBand : intoCard)(doc, chosen)));
  }
  if (mod && event.key === " " && inTree(event.target)) {
    return done(() => composer.select(node.id, "toggle"));
  }
  if (event.key === "Delete" || event.key === "Backspace") {
    return done(() => composer.run(takeOut(doc, chosen)));
  }
  if (event.key === "Escape") {
    return done(() => composer.select(find(doc, node.id)?.parent?.id ?? null));
  }
  if (event.key === "Enter" && !mod && !isButton(event.target)) {
    const writable = firstWritable(node);
    if (!writable) return false;
    return done(() => {
      if (writable !== node) composer.select(writable.id);
      composer.write(writable.id);
    });
  }
  return false;
}

/** The node itself where it has words to write, or the first of its items that has. */
function firstWritable(node: DocNode): DocNode | null {
  if (!nodeKind(node.type)) return null;
  for (const one of walk(node)) {
    const own = one === node || isItem(one.type);
    if (own && textsOf(one.type).length > 0) return one;
  }
  return null;
}

/** The running order takes the arrows; so do the sheets, where nothing else does. */
const inTree = (target: EventTarget | null) => {
  const element = target as HTMLElement | null;
  return (
    Boolean(element?.closest?.("[role=tree]")) || element?.ownerDocument.title !== document.title
  );
};
const isButton = (target: EventTarget | null) =>
  Boolean((target as HTMLElement | null)?.closest?.("button, a[href]"));
