/** Everything that is put down: drags from the tray, the sheets and the running order, files from the computer, and the way by keyboard. */
import type { DragEndEvent, DragMoveEvent, DragStartEvent } from "@dnd-kit/core";
import { type RefObject, useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { EmailDocument } from "#core/document/index.ts";
import { sameJson } from "#core/json.ts";
import type { SheetName } from "../context.ts";
import type { Doing } from "../doing.ts";
import { type Landing, landingAt, lineFor, type Point } from "../landing.ts";
import type { Load } from "../load.ts";
import { pictureFiles } from "../pasting/upload.ts";
import { putDown } from "../put-down.ts";
import type { SheetView } from "../sheets/view.ts";
import { type Spot, wordsFor } from "../spots.ts";
import { countUse } from "../tray/usage.ts";
import { edgeScroll } from "./edge-scroll.ts";
import { orderLanding } from "./order-landing.ts";
import { beginWalk, sayWalk, spotOf, stepWalk, type Walk } from "./walk.ts";

export type Views = Record<SheetName, SheetView | null>;

/** Where something would land: on a sheet, or in the running order. */
export interface Landed {
  readonly on: SheetName | "order";
  readonly at: Landing;
}

/** What all parts of the composer know of placing; it stays the same while the pointer only moves. */
export interface Placing {
  readonly load: Load | null;
  /** The way by keyboard, while it goes on. */
  readonly walk: Walk | null;
  /** Puts something down, says where, and counts what is used. */
  put(load: Load, spot: Spot): void;
  /** Lets the person choose a spot by keyboard. */
  begin(load: Load): void;
  /** Takes a key of the way by keyboard; gives whether it was one. */
  key(event: KeyboardEvent): boolean;
  /** Hears of files that are dragged over a page: the window's, or a frame's. */
  dragFiles(event: DragEvent): void;
}

/** For the frame of drag and drop. */
export interface DragHandlers {
  onDragStart(event: DragStartEvent): void;
  onDragMove(event: DragMoveEvent): void;
  onDragEnd(event: DragEndEvent): void;
  onDragCancel(): void;
}

const paneAt = ({ x, y }: Point): Element | null =>
  document
    .elementsFromPoint(x, y)
    .map((element) => element.closest("[data-pane]"))
    .find((pane) => pane !== null) ?? null;

export function usePlacing(given: {
  doc: EmailDocument;
  selected: string | null;
  views: RefObject<Views>;
  /** Nothing can be changed. */
  fixed: boolean;
  run(doing: Doing | null): boolean;
  announce(words: string): void;
  say(words: string, tone?: "plain" | "wrong"): void;
  onFiles(files: readonly File[], spot: Spot): void;
}): { placing: Placing; landing: Landed | null; handlers: DragHandlers } {
  const latest = useRef(given);
  latest.current = given;
  const [load, setLoad] = useState<Load | null>(null);
  const [landing, showLanding] = useState<Landed | null>(null);
  // Most moves of the pointer lead to the spot that is shown already.
  const setLanding = useCallback(
    (next: Landed | null) => showLanding((now) => (sameJson(now, next) ? now : next)),
    [],
  );
  const [walk, setWalk] = useState<Walk | null>(null);
  const state = useRef({ load, landing, walk });
  state.current = { load, landing, walk };
  const pointer = useRef<Point | null>(null);

  const land = useCallback((what: Load): Landed | null => {
    const at = pointer.current;
    const { doc, views } = latest.current;
    const pane = at && paneAt(at);
    if (!at || !pane) return null;
    const name = pane.getAttribute("data-pane") as SheetName | "order";
    if (name === "order") {
      const tree = pane.querySelector("[role=tree]")!.getBoundingClientRect();
      const rows = [...pane.querySelectorAll<HTMLElement>("[data-order]")].slice(1).map((row) => {
        const { top, bottom } = row.getBoundingClientRect();
        return { id: row.dataset.order!, top: top - tree.top, bottom: bottom - tree.top };
      });
      const found = orderLanding(doc, what, at.y - tree.top, rows);
      return found && { on: name, at: found };
    }
    const view = views.current[name];
    const frame = view?.frame.getBoundingClientRect();
    if (!view || !frame) return null;
    const scale = frame.width / view.frame.clientWidth;
    const point = { x: (at.x - frame.left) / scale, y: (at.y - frame.top) / scale };
    const found = landingAt(doc, what, point, (id) => view.boxOf(id), name === "wide");
    return found && { on: name, at: found };
  }, []);

  const end = useCallback(() => {
    pointer.current = null;
    setLoad(null);
    setLanding(null);
  }, [setLanding]);
  const move = useCallback(
    (at: Point) => {
      pointer.current = at;
      if (state.current.load) setLanding(land(state.current.load));
    },
    [land, setLanding],
  );

  // Near an edge the pane under the pointer scrolls, whether the pointer moves or not.
  const dragging = load !== null;
  useEffect(() => {
    if (!dragging) return;
    let frame = requestAnimationFrame(function step() {
      const at = pointer.current;
      const pane = at && paneAt(at);
      if (at && pane && edgeScroll(pane, at.y) && state.current.load) {
        setLanding(land(state.current.load));
      }
      frame = requestAnimationFrame(step);
    });
    return () => cancelAnimationFrame(frame);
  }, [dragging, land, setLanding]);

  const put = useCallback((what: Load, spot: Spot) => {
    const { doc, run, announce } = latest.current;
    if (!run(putDown(doc, what, spot))) return;
    if (what.kind === "new") countUse(what.type);
    announce(`Put in ${wordsFor(doc, spot)}`);
  }, []);

  const dragFiles = useCallback(
    (event: DragEvent) => {
      const { fixed, onFiles } = latest.current;
      if (fixed || !event.dataTransfer?.types.includes("Files")) return;
      event.preventDefault();
      if (event.type === "dragenter" || event.type === "dragover") {
        event.dataTransfer.dropEffect = "copy";
        const what = state.current.load ?? { kind: "files" };
        if (state.current.load === null) setLoad(what);
        // In a frame the point is the frame's own; the next event comes from the window.
        if (event.view === window) {
          pointer.current = { x: event.clientX, y: event.clientY };
          setLanding(land(what));
        }
        return;
      }
      if (event.type === "dragleave") {
        if (event.relatedTarget === null && event.view === window) end();
        return;
      }
      const files = pictureFiles(event.dataTransfer);
      const at = state.current.landing;
      if (at && files.length) onFiles(files, at.at.spot);
      else if (event.dataTransfer.files.length && !files.length) {
        latest.current.say("Only pictures can be dropped here.", "wrong");
      }
      end();
    },
    [land, end, setLanding],
  );
  useEffect(() => {
    const kinds = ["dragenter", "dragover", "dragleave", "drop"] as const;
    for (const kind of kinds) window.addEventListener(kind, dragFiles);
    return () => {
      for (const kind of kinds) window.removeEventListener(kind, dragFiles);
    };
  }, [dragFiles]);

  const show = useCallback(
    (next: Walk) => {
      const { doc, views } = latest.current;
      const spot = spotOf(doc, next);
      // The wide sheet shows it, or whichever is there.
      const name = views.current.wide ? "wide" : "narrow";
      const view = views.current[name];
      if (!view) return;
      const line = lineFor(doc, spot, (id) => view.boxOf(id));
      setWalk(next);
      setLanding({ on: name, at: { spot, words: wordsFor(doc, spot), line } });
      latest.current.announce(sayWalk(doc, next));
    },
    [setLanding],
  );

  const key = useCallback(
    (event: KeyboardEvent) => {
      const { walk: current } = state.current;
      const { doc } = latest.current;
      // The key that chose in the list of blocks is not one of the way.
      if (!current || event.defaultPrevented) return false;
      const next = stepWalk(doc, current, event.key);
      const over = () => {
        setWalk(null);
        end();
      };
      if (next) show(next);
      else if (event.key === "Enter") {
        put(current.load, spotOf(doc, current));
        over();
      } else if (event.key === "Escape") {
        latest.current.announce("Nothing was put in.");
        over();
      } else return false;
      event.preventDefault();
      event.stopPropagation();
      return true;
    },
    [show, put, end],
  );

  const begin = useCallback(
    (what: Load) => {
      const { doc, selected } = latest.current;
      const from = selected === "envelope" ? null : selected;
      show(beginWalk(doc, what, from));
    },
    [show],
  );
  const handlers = useMemo(
    (): DragHandlers => ({
      onDragStart: ({ active }) => {
        setWalk(null);
        setLoad(active.data.current?.load as Load);
      },
      onDragMove: ({ activatorEvent, delta }) => {
        const start = activatorEvent as PointerEvent;
        move({ x: start.clientX + delta.x, y: start.clientY + delta.y });
      },
      onDragEnd: () => {
        const { load: what, landing: at } = state.current;
        if (what && at) put(what, at.at.spot);
        end();
      },
      onDragCancel: end,
    }),
    [move, put, end],
  );
  const placing = useMemo(
    () => ({ load, walk, put, key, dragFiles, begin }),
    [load, walk, put, key, dragFiles, begin],
  );
  return { placing, landing, handlers };
}
