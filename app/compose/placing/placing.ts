/** Everything that is put down: drags from the tray, the sheets and the running order, files from the computer, and the way by keyboard. */
import type { DragEndEvent, DragMoveEvent, DragStartEvent } from "@dnd-kit/core";
import { createStore } from "zustand";
import { sameJson } from "#core/json.ts";
import { pictureFiles } from "../../ui/upload.ts";
import type { Commands } from "../doing/commands.ts";
import type { Messages } from "../messages/messages.ts";
import type { Reading } from "../reading/reading.ts";
import type { Selection } from "../selection/selection.ts";
import { handedDown, type Readable, readsOf } from "../shared.ts";
import type { SheetName, Views } from "../sheets/views.ts";
import { edgeScroll } from "./edge-scroll.ts";
import { type Landing, landingAt, lineFor, type Point } from "./landing.ts";
import { type Load, typesOf } from "./load.ts";
import { orderLanding } from "./order-landing.ts";
import { type Spot, wordsFor } from "./spots.ts";
import { beginWalk, sayWalk, spotOf, stepWalk, type Walk } from "./walk.ts";

/** Where something would land: on a sheet, or in the running order. */
export interface Landed {
  readonly on: SheetName | "order";
  readonly at: Landing;
}

export interface PlacingState {
  /** What is on its way into the email. */
  readonly load: Load | null;
  /** The way by keyboard, while it goes on. */
  readonly walk: Walk | null;
  readonly landed: Landed | null;
}

export interface Placing {
  readonly store: Readable<PlacingState>;
  /** Lets the person choose a spot by keyboard. */
  begin(load: Load): void;
  /** Takes a key of the way by keyboard; gives whether it was one. */
  key(event: KeyboardEvent): boolean;
  /** Hears of files that are dragged over a page: the window's, or a frame's. */
  dragFiles(event: DragEvent): void;
  /** For the frame of drag and drop. */
  readonly handlers: {
    onDragStart(event: DragStartEvent): void;
    onDragMove(event: DragMoveEvent): void;
    onDragEnd(event: DragEndEvent): void;
    onDragCancel(): void;
  };
}

const NOTHING: PlacingState = { load: null, walk: null, landed: null };

const paneAt = ({ x, y }: Point): Element | null =>
  document
    .elementsFromPoint(x, y)
    .map((element) => element.closest("[data-pane]"))
    .find((pane) => pane !== null) ?? null;

export function createPlacing({
  reading,
  selection,
  views,
  commands,
  messages,
}: {
  reading: Pick<Reading, "store">;
  selection: Pick<Selection, "store">;
  views: Views;
  commands: Pick<Commands, "put" | "addFiles">;
  messages: Messages;
}): Placing {
  const store = createStore<PlacingState>(() => NOTHING);
  const { getState } = store;
  const shown = () => reading.store.getState().doc;
  let pointer: Point | null = null;

  // Most moves of the pointer lead to the spot that is shown already.
  const setLanded = (landed: Landed | null) => {
    if (!sameJson(getState().landed, landed)) store.setState({ landed });
  };

  function land(load: Load): Landed | null {
    const pane = pointer && paneAt(pointer);
    if (!pointer || !pane) return null;
    const name = pane.getAttribute("data-pane") as SheetName | "order";
    if (name === "order") {
      const tree = pane.querySelector("[role=tree]")!.getBoundingClientRect();
      const rows = [...pane.querySelectorAll<HTMLElement>("[data-order]")].slice(1).map((row) => {
        const { top, bottom } = row.getBoundingClientRect();
        return { id: row.dataset.order!, top: top - tree.top, bottom: bottom - tree.top };
      });
      const at = orderLanding(shown(), load, pointer.y - tree.top, rows);
      return at && { on: name, at };
    }
    const view = views.get(name);
    const frame = view?.frame.getBoundingClientRect();
    if (!view || !frame) return null;
    const scale = frame.width / view.frame.clientWidth;
    const point = { x: (pointer.x - frame.left) / scale, y: (pointer.y - frame.top) / scale };
    const at = landingAt(shown(), load, point, (id) => view.boxOf(id), name === "wide");
    return at && { on: name, at };
  }

  /** Puts something down, and says so where somebody else has deleted it on the way. */
  function put(load: Load, spot: Spot | undefined): void {
    if (load.kind === "nodes" && typesOf(shown(), load).length === 0) {
      messages.say("Somebody has deleted this meanwhile.", "wrong");
    } else if (spot) commands.put(load, spot);
  }

  function end(): void {
    pointer = null;
    store.setState(NOTHING);
  }

  /** Near an edge the pane under the pointer scrolls, whether the pointer moves or not. */
  function scrollAlong(): void {
    const { load } = getState();
    if (!load) return;
    const pane = pointer && paneAt(pointer);
    if (pointer && pane && edgeScroll(pane, pointer.y)) setLanded(land(load));
    requestAnimationFrame(scrollAlong);
  }

  function take(load: Load): void {
    const before = getState().load;
    store.setState({ load, walk: null });
    if (!before) requestAnimationFrame(scrollAlong);
  }

  function move(at: Point): void {
    pointer = at;
    const { load } = getState();
    if (load) setLanded(land(load));
  }

  function walkTo(walk: Walk): void {
    const doc = shown();
    const spot = spotOf(doc, walk);
    const on = views.answering();
    const view = views.get(on);
    if (!view) return;
    const line = lineFor(doc, spot, (id) => view.boxOf(id));
    store.setState({ walk });
    setLanded({ on, at: { spot, words: wordsFor(doc, spot), line } });
    messages.announce(sayWalk(doc, walk));
  }

  return {
    store,
    begin(load) {
      const { selected } = selection.store.getState();
      walkTo(beginWalk(shown(), load, selected === "envelope" ? null : selected));
    },
    key(event) {
      const { walk } = getState();
      // The key that chose in the list of blocks is not one of the way.
      if (!walk || event.defaultPrevented) return false;
      const next = stepWalk(shown(), walk, event.key);
      if (next) walkTo(next);
      else if (event.key === "Enter") {
        put(walk.load, spotOf(shown(), walk));
        end();
      } else if (event.key === "Escape") {
        messages.announce("Nothing was put in.");
        end();
      } else return false;
      event.preventDefault();
      event.stopPropagation();
      return true;
    },
    dragFiles(event) {
      const { fixed } = reading.store.getState();
      if (fixed !== null || !event.dataTransfer?.types.includes("Files")) return;
      event.preventDefault();
      if (event.type === "dragenter" || event.type === "dragover") {
        event.dataTransfer.dropEffect = "copy";
        if (getState().load === null) take({ kind: "files" });
        // In a frame the point is the frame's own; the next event comes from the window.
        if (event.view === window) move({ x: event.clientX, y: event.clientY });
        return;
      }
      if (event.type === "dragleave") {
        if (event.relatedTarget === null && event.view === window) end();
        return;
      }
      const files = pictureFiles(event.dataTransfer);
      const { landed } = getState();
      if (landed && files.length) commands.addFiles(files, landed.at.spot);
      else if (event.dataTransfer.files.length && !files.length) {
        messages.say("Only images can be dropped here.", "wrong");
      }
      end();
    },
    handlers: {
      onDragStart: ({ active }) => take(active.data.current?.load as Load),
      onDragMove({ activatorEvent, delta }) {
        const start = activatorEvent as PointerEvent;
        move({ x: start.clientX + delta.x, y: start.clientY + delta.y });
      },
      onDragEnd() {
        const { load, landed } = getState();
        if (load) put(load, landed?.at.spot);
        end();
      },
      onDragCancel: end,
    },
  };
}

export const { Provider: PlacingProvider, use: usePlacer } = handedDown<Placing>("placing");
export const usePlacing = readsOf(usePlacer);
