/** One sheet: the frame with the email, and above it what the application draws. */
import { useCallback, useEffect, useRef, useState } from "react";
import { shallow } from "zustand/shallow";
import { EMPTY_PAGE, isEmptyPage } from "../../ui/email-frame.tsx";
import { Overlay } from "../overlay/overlay.tsx";
import { usePlacing } from "../placing/placing.ts";
import { useReader } from "../reading/reading.ts";
import { useSelection } from "../selection/selection.ts";
import { editing } from "../text/late.ts";
import { useHeard } from "./heard.ts";
import { listenTo } from "./listen.ts";
import { type Box, SheetView } from "./view.ts";
import { type SheetName, useViews } from "./views.ts";
import { useWriter, useWriting } from "./writer.ts";
import { contentOf, isServed } from "./written.ts";

export interface SheetProps {
  readonly name: SheetName;
  /** Pixels of the email's window, and how much it is scaled. */
  readonly width: number;
  readonly scale: number;
  readonly picturesOff: boolean;
  readonly dark: boolean;
  /** The page with the email in it that the server keeps for this one, by its name; null where the email is written here. */
  readonly served: string | null;
  /** Hands out the element that scrolls. */
  paneRef(pane: HTMLElement | null): void;
}

/** How high the format bar can be with the room to the text, px. */
const BAR = 72;
/** How wide it would like to be, px. */
const BAR_WIDTH = 420;

/** Over the text, or under it where there is no room above. */
function barPlace(box: Box | null, scale: number, sheet: number) {
  const { y, height } = box ?? { y: 0, height: 0 };
  return y * scale >= BAR ? { bottom: (sheet - y) * scale + 6 } : { top: (y + height) * scale + 6 };
}

/** The bar of the text that is being written on this sheet. */
function WritingBar({
  name,
  view,
  width,
  height,
  scale,
}: Pick<SheetProps, "name" | "width" | "scale"> & { view: SheetView; height: number }) {
  const writer = useWriter();
  const { writing, askingTag, linking, format } = useWriting(
    "writing",
    "askingTag",
    "linking",
    "format",
  );
  const tools = editing.now();
  if (writing?.on !== name || !tools) return null;
  const box = view.boxOf(writing.node);
  return (
    <div
      className="absolute z-20"
      style={{
        left: Math.min(Math.max(0, (box?.x ?? 0) * scale), Math.max(0, width * scale - BAR_WIDTH)),
        maxWidth: width * scale,
        // Where the bar takes two lines, it grows upwards and the words stay free.
        ...barPlace(box, scale, height),
      }}
    >
      <tools.FormatBar
        editor={writing.editor}
        kind={writing.kind}
        format={format}
        askingTag={askingTag}
        onAskTag={writer.askTag}
        linking={linking}
        onLinking={writer.link}
        onPopover={writer.popover}
      />
    </div>
  );
}

/** Shows the email in the frame; gives the height, and a number that changes with every layout. */
function useShown(view: SheetView | null, name: SheetName): { height: number; layout: number } {
  const [measured, setMeasured] = useState({ height: 600, layout: 0 });
  const measure = useCallback(
    (moved: boolean) =>
      setMeasured((before) => {
        const height = view?.height ?? before.height;
        return moved || height !== before.height ? { height, layout: before.layout + 1 } : before;
      }),
    [view],
  );
  const { store } = useReader();
  useEffect(() => {
    if (!view) return;
    const show = () => view.show(contentOf(store.getState()));
    show();
    measure(true);
    // Measuring tools can see when a sheet is there.
    performance.mark(`${name} sheet shown`);
    return store.subscribe((now, before) => {
      if (!shallow(contentOf(now), contentOf(before))) measure(show().moved);
    });
  }, [view, name, store, measure]);
  useEffect(() => {
    if (!view) return;
    const observer = new ResizeObserver(() => measure(false));
    observer.observe(view.document.body);
    return () => observer.disconnect();
  }, [view, measure]);
  return measured;
}

/** What is chosen elsewhere, or has just been put in, is brought into view; so is a spot chosen by keyboard. */
function useInView(view: SheetView | null, name: SheetName, scale: number, known: boolean): void {
  const views = useViews();
  const selected = useSelection((state) => state.selected);
  const walked = usePlacing(({ walk, landed }) => (walk && landed?.on === name ? landed.at : null));
  useEffect(() => {
    if (!view || !known) return;
    const line = walked && { ...walked.line, height: walked.line.height ?? 1 };
    const mine = views.answering() === name && selected;
    const box = line ?? (mine ? view.boxOf(selected) : null);
    const room = view.frame.closest("[data-pane]");
    if (!box || !room) return;
    const at = view.frame.getBoundingClientRect();
    const seen = room.getBoundingClientRect();
    const top = at.top + box.y * scale;
    const bottom = top + box.height * scale;
    if (bottom < seen.top + 24 || top > seen.bottom - 24) {
      room.scrollBy({ top: top - seen.top - seen.height / 3 });
    }
  }, [view, views, name, selected, known, scale, walked]);
}

export function Sheet({ name, width, scale, picturesOff, dark, served, paneRef }: SheetProps) {
  const views = useViews();
  const writer = useWriter();
  const heard = useHeard();
  const frame = useRef<HTMLIFrameElement>(null);
  const [src, setSrc] = useState(served === null ? EMPTY_PAGE : `${EMPTY_PAGE}/${served}`);
  const [view, setView] = useState<SheetView | null>(null);
  const { height, layout } = useShown(view, name);
  useInView(view, name, scale, layout > 0);

  const { first } = useReader();
  /** The page that was opened last. */
  const opened = useRef<Document | null>(null);
  /** Begins with the page in the frame, if that is one of ours and there; gives whether it is. */
  const open = useCallback(() => {
    const page = frame.current?.contentDocument;
    if (!page || page.readyState === "loading") return false;
    if (page === opened.current) return true;
    if (!isEmptyPage(page) && !isServed(page)) return false;
    opened.current = page;
    const made = new SheetView(frame.current!, first);
    setView(made);
    views.set(name, made);
    return true;
  }, [views, name, first]);
  // Begins as soon as the email stands there: a frame is loaded only when its pictures are.
  useEffect(() => {
    let asked = 0;
    const look = () => {
      if (!open()) asked = requestAnimationFrame(look);
    };
    look();
    return () => {
      cancelAnimationFrame(asked);
      opened.current = null;
      writer.left(name);
      views.set(name, null);
    };
  }, [open, writer, views, name]);
  useEffect(() => (view ? listenTo(view, name, heard) : undefined), [view, name, heard]);
  useEffect(() => {
    view?.document.documentElement.classList.toggle("pictures-off", picturesOff);
  }, [view, picturesOff]);

  return (
    <section
      ref={paneRef}
      aria-label={`${name === "wide" ? "Wide" : "Narrow"} sheet`}
      data-pane={name}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reachable by keyboard
      tabIndex={0}
      className="sheet-pane min-h-0 flex-none overflow-x-hidden overflow-y-auto px-2.5 pt-2 pb-10 focus-visible:-outline-offset-2"
    >
      <div className="mb-1 text-small text-ink-3">{width} px</div>
      <div
        className="relative bg-[#ffffff] outline-1 outline-line"
        style={{ width: width * scale, height: height * scale }}
      >
        <iframe
          ref={frame}
          title={`The email, ${width} pixels wide`}
          src={src}
          sandbox="allow-same-origin"
          onLoad={() => {
            // What came is no page of ours: the email is written into an empty one.
            if (!open()) setSrc(EMPTY_PAGE);
          }}
          className="sheet-frame absolute top-0 left-0 origin-top-left"
          style={{
            width,
            height,
            transform: `scale(${scale})`,
            // The media query inside answers to the scheme of the frame.
            colorScheme: dark ? "dark" : "light",
          }}
        />
        {view && (
          <>
            <Overlay view={view} name={name} scale={scale} layout={layout} />
            <WritingBar name={name} view={view} width={width} height={height} scale={scale} />
          </>
        )}
      </div>
    </section>
  );
}
