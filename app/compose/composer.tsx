/** The composer: one document, its sheets, and everything around them. */
import { DndContext, DragOverlay, PointerSensor, useSensor, useSensors } from "@dnd-kit/core";
import { type Context, lazy, type ReactNode, Suspense, useEffect, useRef, useState } from "react";
import { useBlocker, useRevalidator } from "react-router";
import type { EmailProps } from "#core/blocks/layout.ts";
import type { Finding } from "#core/kinds/kind.ts";
import { LIMITS } from "#core/limits.ts";
import { ROOMY, SMALL, useMedia } from "../ui/media.ts";
import { useToast } from "../ui/toast.tsx";
import { CommentsProvider } from "./comments/kept.ts";
import { type Composer, type ComposerStart, createComposer } from "./create.ts";
import { CommandsProvider } from "./doing/commands.ts";
import { LookBackProvider } from "./history/looking.ts";
import { InboxLines } from "./inbox/inbox-lines.tsx";
import { FindingsProvider, useFindings } from "./inspecting/findings.ts";
import { LanguageChoice } from "./languages/language-choice.tsx";
import { ChosenItemsProvider } from "./live/chosen.ts";
import { MessagesProvider, useMessages } from "./messages/messages.ts";
import { Notes } from "./notes.tsx";
import { OpenPanels } from "./panels/list.tsx";
import { PanelsProvider } from "./panels/open.ts";
import { UploadingProvider } from "./pasting/uploading.ts";
import { Uploads } from "./pasting/uploads.tsx";
import { Carrying } from "./placing/carrying.tsx";
import { labelOfLoad } from "./placing/load.ts";
import { PlacingProvider, usePlacer, usePlacing } from "./placing/placing.ts";
import { ReadingProvider, useReader, useReading } from "./reading/reading.ts";
import { RunningOrder } from "./running-order/running-order.tsx";
import { SelectionProvider } from "./selection/selection.ts";
import { SessionProvider, useEmail } from "./session/session.ts";
import { SettingsPanel } from "./settings/settings.tsx";
import { HeardProvider } from "./sheets/heard.ts";
import { useScale } from "./sheets/scale.ts";
import { useScrollTogether } from "./sheets/scroll-together.ts";
import { Sheet } from "./sheets/sheet.tsx";
import { Size } from "./sheets/size.tsx";
import { type Sheets, Strip } from "./sheets/strip.tsx";
import { type SheetName, useViews, ViewsProvider } from "./sheets/views.ts";
import { WriterProvider } from "./sheets/writer.ts";
import { Tools } from "./tools.tsx";
import { Tray } from "./tray/tray.tsx";

/** Loaded where it is asked for. */
const ThirdSheet = lazy(() => import("./sheets/third.tsx"));

export interface ComposerProps extends ComposerStart {
  /** Where the tools of the room stand. */
  readonly tools: HTMLElement | null;
  /** Hears what the checks find, null while nothing is known; and whether the email is another than was loaded. */
  onFindings(findings: readonly Finding[] | null, changed: boolean): void;
}

/** Hands one idea down to what stands in it. */
const given =
  <T,>(Provider: Context<T | null>, idea: T) =>
  (inner: ReactNode) => <Provider value={idea}>{inner}</Provider>;

/** Hands every idea down. */
const Shared = ({ of, children }: { of: Composer; children: ReactNode }) =>
  [
    given(SessionProvider, of.session),
    given(CommentsProvider, of.comments),
    given(LookBackProvider, of.lookBack),
    given(ChosenItemsProvider, of.chosen),
    given(ReadingProvider, of.reading),
    given(SelectionProvider, of.selection),
    given(FindingsProvider, of.findings),
    given(UploadingProvider, of.uploading),
    given(CommandsProvider, of.commands),
    given(ViewsProvider, of.views),
    given(PlacingProvider, of.placing),
    given(PanelsProvider, of.panels),
    given(WriterProvider, of.writer),
    given(MessagesProvider, of.messages),
    given(HeardProvider, of.heard),
  ].reduceRight((inner, give) => give(inner), children);

/** The strip, what has to be said over the sheets, and the sheets. */
function SheetsPane({ trouble, sent, served }: Pick<ComposerProps, "trouble" | "sent" | "served">) {
  const [sheets, setSheets] = useState<Sheets>("both");
  const [together, setTogether] = useState(true);
  const [picturesOff, setPicturesOff] = useState(false);
  const [dark, setDark] = useState(false);
  const reader = useReader();
  const { readingAs, everything, language } = useReading("readingAs", "everything", "language");
  const width = useReading(({ doc }) => (doc.root.props as unknown as EmailProps).width);
  const panes = useRef<Record<SheetName, HTMLElement | null>>({ wide: null, narrow: null });
  // In a small window there is one sheet, as wide as a phone: to read it, and to change its words and images.
  const small = useMedia(SMALL);
  const shownSheets = small ? "narrow" : sheets;
  const roomy = useMedia(ROOMY);
  const [asked, setThird] = useState(false);
  const third = asked && roomy;
  const { place, scale } = useScale(width, shownSheets, third);
  useScrollTogether(together && shownSheets === "both", useViews(), panes, scale);
  const sheet = (name: SheetName, px: number) => (
    <Sheet
      key={name}
      name={name}
      width={px}
      scale={scale}
      picturesOff={picturesOff}
      dark={dark}
      served={served}
      paneRef={(pane) => {
        panes.current[name] = pane;
      }}
    />
  );
  return (
    <div className="flex min-h-0 min-w-0 flex-col">
      <Strip
        reader={readingAs}
        onReader={reader.readAs}
        sheets={sheets}
        onSheets={setSheets}
        picturesOff={picturesOff}
        onPicturesOff={setPicturesOff}
        dark={dark}
        onDark={setDark}
        everything={everything}
        onEverything={reader.showEverything}
        together={together}
        onTogether={setTogether}
        third={third}
        onThird={roomy ? setThird : null}
      >
        <LanguageChoice language={language} onLanguage={reader.showIn} />
        <Size />
      </Strip>
      <OpenPanels at="strip" />
      <Notes trouble={trouble} sent={sent} />
      <div
        ref={place}
        role="region"
        aria-label="Sheets"
        className="relative flex min-h-0 flex-1 justify-center bg-bench"
      >
        {shownSheets !== "narrow" && sheet("wide", width)}
        {shownSheets !== "wide" && sheet("narrow", LIMITS.narrowWidth)}
        {third && (
          <Suspense fallback={null}>
            <ThirdSheet scale={scale} />
          </Suspense>
        )}
        <InboxLines />
        <Uploads />
      </div>
    </div>
  );
}

/** What is on its way, under the pointer. */
function Carried() {
  const { load } = usePlacing("load");
  const { store } = useReader();
  return (
    <DragOverlay dropAnimation={null}>
      {load && (
        <span className="inline-block translate-x-4 translate-y-5 rounded-md border border-plum bg-sheet px-2.5 py-1 text-small font-semibold opacity-90">
          {labelOfLoad(store.getState().doc, load)}
        </span>
      )}
    </DragOverlay>
  );
}

/** A click is no drag. One object for good: with another, all that can be dragged is drawn anew. */
const NO_CLICK = { activationConstraint: { distance: 4 } };

/** Drag and drop, and the ground on which everything stands. */
function Ground({ children }: { children: ReactNode }) {
  const { handlers } = usePlacer();
  const { announcer } = useMessages();
  const carrying = usePlacing(({ load }) => load !== null);
  const sensors = useSensors(useSensor(PointerSensor, NO_CLICK));
  return (
    <DndContext sensors={sensors} autoScroll={false} {...handlers}>
      <div
        className={`composer grid h-full min-h-[440px] grid-rows-[1fr_auto] ${carrying ? "dragging" : ""}`}
      >
        <Carrying>{children}</Carrying>
      </div>
      <Carried />
      <div ref={announcer} data-announcer="" role="status" aria-live="polite" className="sr-only" />
    </DndContext>
  );
}

/** Tells the frame of the campaign what is found. */
function Report({
  trouble,
  loaded,
  onFindings,
}: Pick<ComposerProps, "trouble" | "onFindings"> & { loaded: ComposerProps["doc"] }) {
  const found = useFindings(({ inspection }) => inspection?.findings ?? null);
  const findings = trouble ? null : found;
  const changed = useEmail(({ doc }) => doc.root !== loaded.root);
  useEffect(() => onFindings(findings, changed), [onFindings, findings, changed]);
  return null;
}

export function ComposerView(props: ComposerProps) {
  const { trouble, sent, served, tools, onFindings } = props;
  const say = useToast();
  const [composer] = useState(() => createComposer(props, say));
  const { revalidate } = useRevalidator();
  useEffect(() => composer.live(() => void revalidate()), [composer, revalidate]);
  // Nothing is held back: this is the moment before the next page is read, and the last to send words in time.
  useBlocker(({ currentLocation, nextLocation }) => {
    if (nextLocation.pathname !== currentLocation.pathname) composer.leaving();
    return false;
  });
  return (
    <Shared of={composer}>
      <Ground>
        <div className="composer-rooms grid min-h-0 grid-cols-[204px_1fr_264px] max-[560px]:grid-cols-1 max-[560px]:grid-rows-[minmax(0,1fr)_40%] 2xl:grid-cols-[248px_1fr_360px]">
          <RunningOrder />
          <SheetsPane trouble={trouble} sent={sent} served={served} />
          <OpenPanels at="side" or={<SettingsPanel />} />
        </div>
        <div className="min-w-0">
          <OpenPanels at="tray" />
          <Tray />
        </div>
        <OpenPanels at="over" />
      </Ground>
      <Tools place={tools} />
      <Report trouble={trouble} loaded={props.doc} onFindings={onFindings} />
    </Shared>
  );
}
