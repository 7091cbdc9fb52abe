/** What hands do in the frame of a sheet. */

import type { Keys } from "../keys/keys.ts";
import { CLIPBOARD, type Clipboard } from "../pasting/clipboard.ts";
import type { Placing } from "../placing/placing.ts";
import type { Selection } from "../selection/selection.ts";
import { loadAtFirstMove } from "../text/late.ts";
import { SheetView } from "./view.ts";
import type { SheetName } from "./views.ts";
import type { Writer } from "./writer.ts";

export interface Heard {
  readonly selection: Selection;
  readonly writer: Writer;
  readonly placing: Placing;
  readonly keys: Keys;
  readonly clipboard: Clipboard;
}

const inText = (event: Event) => Boolean((event.target as Element).closest?.(".writing"));

/** Listens to a sheet; gives the way to stop. */
export function listenTo(
  view: SheetView,
  name: SheetName,
  { selection, writer, placing, keys, clipboard }: Heard,
): () => void {
  const stop = new AbortController();
  const on = <Kind extends keyof DocumentEventMap>(
    kind: Kind,
    heard: (event: DocumentEventMap[Kind]) => void,
  ) => view.document.addEventListener(kind, heard, { signal: stop.signal });

  loadAtFirstMove(view.document, stop.signal);
  on("click", (event) => {
    event.preventDefault();
    if (inText(event)) return;
    const how = event.shiftKey ? "range" : event.ctrlKey || event.metaKey ? "toggle" : "one";
    selection.select(SheetView.nodeAt(event.target), how);
  });
  on("dblclick", (event) => {
    const id = SheetView.nodeAt(event.target);
    const text = (event.target as Element).closest<HTMLElement>("[data-text]")?.dataset.text;
    const at = { x: event.clientX, y: event.clientY, text: text ?? null };
    if (id && !inText(event)) writer.begin(name, id, at);
  });
  on("mousemove", (event) => selection.hover(SheetView.nodeAt(event.target)));
  on("mouseleave", () => selection.hover(null));
  on("keydown", (event) => {
    if (!inText(event) || keys.alsoInTexts(event)) keys.press(event);
  });
  on("dragenter", (event) => placing.dragFiles(event));
  // A link or a file that is let go over the frame would lead it away.
  for (const kind of ["dragover", "drop"] as const) {
    on(kind, (event) => {
      if (!inText(event)) event.preventDefault();
    });
  }
  for (const kind of CLIPBOARD) {
    on(kind, (event) => {
      if (!inText(event)) void clipboard.hear(event);
    });
  }
  return () => stop.abort();
}
