/** The composer: one document, its sheets, and everything around them. */
import { DndContext, DragOverlay, PointerSensor, useSensor, useSensors } from "@dnd-kit/core";
import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { useRevalidator } from "react-router";
import { GROUPS, nodeKind } from "#core/blocks/index.ts";
import type { EmailProps } from "#core/blocks/layout.ts";
import type { Trouble } from "#core/blocks/read.ts";
import { type EmailDocument, find, pathTo } from "#core/document/index.ts";
import type { Brand, Picture, Surroundings } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import type { Reader } from "#core/merge/index.ts";
import type { Field } from "#core/rules/index.ts";
import { useToast } from "../ui/toast.tsx";
import { type Doing, type Load, putDown, spotAfter } from "./actions.ts";
import { AddList } from "./add-list.tsx";
import { ConflictDialog } from "./conflict.tsx";
import { type Composer, ComposerContext } from "./context.ts";
import { handleKey } from "./keys/keys.ts";
import { type Landing, landingAt } from "./landing.ts";
import { RunningOrder } from "./running-order/running-order.tsx";
import { createSession } from "./session.ts";
import { SettingsPanel } from "./settings/settings.tsx";
import { GAP, useScale } from "./sheets/scale.ts";
import { Sheet } from "./sheets/sheet.tsx";
import { Size } from "./sheets/size.tsx";
import { type Sheets, Strip } from "./sheets/strip.tsx";
import type { SheetView } from "./sheets/view.ts";
import { Tools } from "./tools.tsx";
import { Tray } from "./tray/tray.tsx";
import { countUse } from "./tray/usage.ts";
import { TroubleNote } from "./trouble.tsx";
import type { ReaderChoice } from "./wire.ts";

export interface ComposerProps {
  readonly campaign: string;
  readonly seq: number;
  readonly doc: EmailDocument;
  readonly can: { readonly undo: boolean; readonly redo: boolean };
  readonly brand: Brand;
  readonly pictures: readonly Picture[];
  readonly fields: readonly Field[];
  readonly reader: ReaderChoice | null;
  /** Why it can only be looked at; null where it can be edited. */
  readonly trouble: Trouble | null;
  /** What to select at first: where a finding leads. */
  readonly selected: string | null;
  readonly tools: HTMLElement | null;
}

const labelOfLoad = (load: Load, doc: EmailDocument): string => {
  if (load.kind === "newBand") return load.columns === 1 ? "Band" : `${load.columns} columns`;
  const type = load.kind === "new" ? load.type : (find(doc, load.id)?.node.type ?? "");
  return nodeKind(type)?.label ?? GROUPS.layout;
};

export function ComposerView(props: ComposerProps) {
  const say = useToast();
  const wrong = useCallback((text: string) => say(text, "wrong"), [say]);
  const [session] = useState(() => createSession(props, wrong));
  const state = useSyncExternalStore(session.subscribe, session.state, session.state);
  const { doc } = state;
  const { width } = doc.root.props as unknown as EmailProps;

  const [pictures, setPictures] = useState(props.pictures);
  const surroundings: Surroundings = useMemo(
    () => ({
      brand: props.brand,
      publicAddress: "",
      pictures: new Map(pictures.map((picture) => [picture.id, picture])),
    }),
    [props.brand, pictures],
  );
  const [readingAs, setReadingAs] = useState(props.reader);
  const reader: Reader = useMemo(
    () => ({ values: readingAs?.values ?? {}, token: "" }),
    [readingAs],
  );
  const [selected, setSelected] = useState<string | null>(props.selected ?? "envelope");
  const [writing, setWriting] = useState<Composer["writing"]>(null);
  const [sheets, setSheets] = useState<Sheets>("both");
  const [picturesOff, setPicturesOff] = useState(false);
  const [dark, setDark] = useState(false);
  const [hovered, setHovered] = useState<string | null>(null);
  const [load, setLoad] = useState<Load | null>(null);
  const [landing, setLanding] = useState<{ sheet: string; at: Landing } | null>(null);
  const [adding, setAdding] = useState(false);
  const views = useRef<{ wide: SheetView | null; narrow: SheetView | null }>({
    wide: null,
    narrow: null,
  });
  const { place, scale } = useScale(width, sheets);

  const select = useCallback((id: string | null) => {
    setSelected(id);
    setWriting((now) => (now?.node === id ? now : null));
  }, []);
  const run = useCallback(
    (doing: Doing | null) => {
      if (doing && session.edit(doing.edit) && doing.select !== undefined) select(doing.select);
    },
    [session, select],
  );
  const composer: Composer = useMemo(
    () => ({
      session,
      doc,
      fields: props.fields,
      surroundings,
      reader,
      readingAs,
      trouble: props.trouble,
      selected,
      writing,
      conflicted: state.conflict !== null,
      load,
      select,
      write: (id, on) =>
        setWriting(id === null || props.trouble ? null : { node: id, on: on ?? null }),
      edit: session.edit,
      run,
      openList: () => setAdding(true),
      add: (what) => {
        if (what.kind === "new") countUse(what.type);
        run(putDown(doc, what, placeFor(doc, what, selected)));
      },
      addPicture: (picture) =>
        setPictures((before) => [picture, ...before.filter((one) => one.id !== picture.id)]),
    }),
    [
      session,
      doc,
      props.fields,
      props.trouble,
      surroundings,
      reader,
      readingAs,
      selected,
      writing,
      state.conflict,
      load,
      select,
      run,
    ],
  );
  const latest = useRef(composer);
  latest.current = composer;

  // What was selected may have been taken out by somebody else.
  useEffect(() => {
    if (selected && selected !== "envelope" && !find(doc, selected)) select(null);
  }, [doc, selected, select]);

  const { revalidate } = useRevalidator();
  useEffect(() => session.follow(), [session]);
  useEffect(() => {
    const flush = () => session.flush();
    const key = (event: KeyboardEvent) => handleKey(event, latest.current);
    window.addEventListener("pagehide", flush);
    window.addEventListener("keydown", key);
    return () => {
      window.removeEventListener("pagehide", flush);
      window.removeEventListener("keydown", key);
      // The room that comes next may have read the email before the last words were saved.
      void session.finish().then((sent) => {
        if (sent) void revalidate();
      });
    };
  }, [session, revalidate]);

  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const landAt = (x: number, y: number, what: Load) => {
    for (const name of ["wide", "narrow"] as const) {
      const view = views.current[name];
      const frame = view?.frame.getBoundingClientRect();
      if (!view || !frame || x < frame.left || x > frame.right) continue;
      const room = place.current!.getBoundingClientRect();
      if (y < room.top || y > room.bottom) return null;
      const point = { x: (x - frame.left) / scale, y: (y - frame.top) / scale };
      const found = landingAt(doc, what, point, (id) => view.boxOf(id));
      return found && { sheet: name, at: found };
    }
    return null;
  };
  const end = () => {
    setLoad(null);
    setLanding(null);
  };
  const onView = useMemo(
    () => ({
      wide: (view: SheetView | null) => {
        views.current.wide = view;
      },
      narrow: (view: SheetView | null) => {
        views.current.narrow = view;
      },
    }),
    [],
  );
  const sheet = (name: "wide" | "narrow", px: number) => (
    <Sheet
      key={name}
      name={name}
      width={px}
      scale={scale}
      picturesOff={picturesOff}
      dark={dark}
      landing={landing?.sheet === name ? landing.at : null}
      hovered={hovered}
      answers={name === "wide" || sheets === "narrow"}
      onHover={setHovered}
      onView={onView[name]}
    />
  );

  return (
    <ComposerContext value={composer}>
      <DndContext
        sensors={sensors}
        autoScroll={{ threshold: { x: 0, y: 0.12 } }}
        onDragStart={({ active }) => setLoad(active.data.current?.load as Load)}
        onDragMove={({ activatorEvent, delta }) => {
          const start = activatorEvent as PointerEvent;
          if (load) setLanding(landAt(start.clientX + delta.x, start.clientY + delta.y, load));
        }}
        onDragCancel={end}
        onDragEnd={() => {
          if (load && landing) {
            if (load.kind === "new") countUse(load.type);
            run(putDown(doc, load, landing.at.spot));
          }
          end();
        }}
      >
        <div
          className={`composer grid h-full min-h-0 grid-rows-[1fr_auto] ${load ? "dragging" : ""}`}
        >
          <div className="grid min-h-0 grid-cols-[204px_1fr_264px]">
            <RunningOrder />
            <div className="flex min-h-0 min-w-0 flex-col">
              <Strip
                reader={readingAs}
                onReader={setReadingAs}
                sheets={sheets}
                onSheets={setSheets}
                picturesOff={picturesOff}
                onPicturesOff={setPicturesOff}
                dark={dark}
                onDark={setDark}
              >
                <Size />
              </Strip>
              {props.trouble && <TroubleNote trouble={props.trouble} />}
              <div
                ref={place}
                // biome-ignore lint/a11y/noNoninteractiveTabindex: a scrolling region must be reachable by keyboard
                tabIndex={0}
                role="region"
                aria-label="Sheets"
                className="min-h-0 flex-1 overflow-auto bg-bench focus-visible:-outline-offset-2"
              >
                <div className="flex items-start px-3.5 pt-2 pb-10" style={{ gap: GAP }}>
                  {sheets !== "narrow" && sheet("wide", width)}
                  {sheets !== "wide" && sheet("narrow", LIMITS.narrowWidth)}
                </div>
              </div>
            </div>
            <SettingsPanel />
          </div>
          <Tray />
        </div>
        <DragOverlay dropAnimation={null}>
          {load && (
            <span className="inline-block translate-x-4 translate-y-5 rounded-md border border-plum bg-sheet px-2.5 py-1 text-[12px] font-semibold opacity-90">
              {labelOfLoad(load, doc)}
            </span>
          )}
        </DragOverlay>
        <AddList open={adding} onOpenChange={setAdding} />
        <ConflictDialog conflict={state.conflict} />
        <Tools place={props.tools} state={state} session={session} />
      </DndContext>
    </ComposerContext>
  );
}

/** New bands go between bands; new blocks after the selection. */
function placeFor(doc: EmailDocument, load: Load, selected: string | null) {
  const from = selected === "envelope" ? null : selected;
  if (load.kind === "new") return spotAfter(doc, from, load.type);
  if (load.kind === "node") return spotAfter(doc, from);
  const [, band] = from ? pathTo(doc, from) : [];
  return band ? { parent: doc.root.id, after: band.id } : spotAfter(doc, null);
}
