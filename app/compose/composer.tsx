/** The composer: one document, its sheets, and everything around them. */
import { DndContext, DragOverlay, PointerSensor, useSensor, useSensors } from "@dnd-kit/core";
import { useMemo, useRef, useState } from "react";
import type { EmailProps } from "#core/blocks/layout.ts";
import { LIMITS } from "#core/limits.ts";
import { DraftBar } from "../draft/draft-bar.tsx";
import { Button } from "../ui/button.tsx";
import { AddList } from "./add-list.tsx";
import { ComposerContext, type SheetName } from "./context.ts";
import { FindBar } from "./find/find-bar.tsx";
import { LookingNote } from "./history/looking-note.tsx";
import { HistoryPanel } from "./history/panel.tsx";
import { InboxLines } from "./inbox/inbox-lines.tsx";
import { LanguageChoice } from "./languages/language-choice.tsx";
import { Translations } from "./languages/translations.tsx";
import { labelOfLoad } from "./load.ts";
import { Uploads } from "./pasting/uploads.tsx";
import { RunningOrder } from "./running-order/running-order.tsx";
import { ClashNote } from "./session/clash-note.tsx";
import { FixedNote, SentNote } from "./session/fixed-note.tsx";
import { SignedOut } from "./session/signed-out.tsx";
import { SettingsPanel } from "./settings/settings.tsx";
import { useScale } from "./sheets/scale.ts";
import { useScrollTogether } from "./sheets/scroll-together.ts";
import { Sheet } from "./sheets/sheet.tsx";
import { Size } from "./sheets/size.tsx";
import { type Sheets, Strip } from "./sheets/strip.tsx";
import type { SheetView } from "./sheets/view.ts";
import { Tools } from "./tools.tsx";
import { Tray } from "./tray/tray.tsx";
import { TroubleNote } from "./trouble.tsx";
import { type ComposerProps, useComposerState } from "./use-composer.ts";

export function ComposerView(props: ComposerProps) {
  const [sheets, setSheets] = useState<Sheets>("both");
  const [together, setTogether] = useState(true);
  const [picturesOff, setPicturesOff] = useState(false);
  const [dark, setDark] = useState(false);
  const [hovered, setHovered] = useState<string | null>(null);
  const panes = useRef<Record<SheetName, HTMLElement | null>>({ wide: null, narrow: null });
  const own = useComposerState(props);
  const { composer, state, views, landing } = own;
  const { doc, readingAs } = composer;
  const { load } = composer.placing;
  const { width } = doc.root.props as unknown as EmailProps;
  const { place, scale } = useScale(width, sheets);
  useScrollTogether(together && sheets === "both", views, panes, scale);

  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const onView = useMemo(
    () => ({
      wide: (view: SheetView | null) => {
        views.current.wide = view;
      },
      narrow: (view: SheetView | null) => {
        views.current.narrow = view;
      },
    }),
    [views],
  );
  const sheet = (name: "wide" | "narrow", px: number) => (
    <Sheet
      key={name}
      name={name}
      width={px}
      scale={scale}
      picturesOff={picturesOff}
      dark={dark}
      landing={landing?.on === name ? landing.at : null}
      paneRef={(pane) => {
        panes.current[name] = pane;
      }}
      hovered={hovered}
      answers={name === "wide" || sheets === "narrow"}
      onHover={setHovered}
      onView={onView[name]}
    />
  );

  return (
    <ComposerContext value={composer}>
      <DndContext sensors={sensors} autoScroll={false} {...own.handlers}>
        <div
          className={`composer grid h-full min-h-[440px] grid-rows-[1fr_auto] ${load ? "dragging" : ""}`}
        >
          <div className="grid min-h-0 grid-cols-[204px_1fr_264px]">
            <RunningOrder landing={landing?.on === "order" ? landing.at : null} />
            <div className="flex min-h-0 min-w-0 flex-col">
              <Strip
                reader={readingAs}
                onReader={own.setReadingAs}
                sheets={sheets}
                onSheets={setSheets}
                picturesOff={picturesOff}
                onPicturesOff={setPicturesOff}
                dark={dark}
                onDark={setDark}
                everything={composer.everything}
                onEverything={own.setEverything}
                together={together}
                onTogether={setTogether}
              >
                <LanguageChoice language={composer.language} onLanguage={own.setLanguage} />
                <Size />
              </Strip>
              {own.finding && <FindBar onClose={() => own.setFinding(false)} />}
              <LookingNote />
              {props.trouble && <TroubleNote trouble={props.trouble} />}
              {props.sent && <SentNote reason={props.sent} />}
              {state.saving === "fixed" && <FixedNote />}
              {state.saving === "signedOut" && <SignedOut />}
              <ClashNote clashes={state.clashes} />
              {!composer.history.looking && (
                <DraftBar
                  campaign={composer.campaign}
                  changed={state.savedAt}
                  settled={composer.session.finish}
                >
                  {({ seq }) =>
                    seq !== null && (
                      <Button
                        onClick={() => void composer.history.look(seq, "This is what goes out.")}
                      >
                        Show what goes out
                      </Button>
                    )
                  }
                </DraftBar>
              )}
              <div
                ref={place}
                role="region"
                aria-label="Sheets"
                className="relative flex min-h-0 flex-1 bg-bench"
              >
                {sheets !== "narrow" && sheet("wide", width)}
                {sheets !== "wide" && sheet("narrow", LIMITS.narrowWidth)}
                <InboxLines />
                <Uploads uploads={own.uploads} onDismiss={own.dismissUpload} />
              </div>
            </div>
            {composer.history.open ? <HistoryPanel /> : <SettingsPanel />}
          </div>
          <Tray />
        </div>
        <DragOverlay dropAnimation={null}>
          {load && (
            <span className="inline-block translate-x-4 translate-y-5 rounded-md border border-plum bg-sheet px-2.5 py-1 text-[12px] font-semibold opacity-90">
              {labelOfLoad(doc, load)}
            </span>
          )}
        </DragOverlay>
        <div
          ref={own.announcer}
          data-announcer=""
          role="status"
          aria-live="polite"
          className="sr-only"
        />
        <Translations lang={own.translating} onLang={own.setTranslating} />
        <AddList open={own.adding} onOpenChange={own.setAdding} />
        <Tools place={props.tools} state={state} session={composer.session} />
      </DndContext>
    </ComposerContext>
  );
}
