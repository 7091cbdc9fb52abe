/** One sheet: the frame with the email, and above it what the application draws. */
import { useCallback, useEffect, useRef, useState } from "react";
import type { Tag } from "#core/text/index.ts";
import { type SheetName, useComposer } from "../context.ts";
import { handleKey } from "../keys/keys.ts";
import type { Landing } from "../landing.ts";
import { Overlay } from "../overlay/overlay.tsx";
import { blocksFrom } from "../pasting/blocks.ts";
import { CLIPBOARD, handleClipboard } from "../pasting/clipboard.ts";
import { formatOf } from "../text/editor.ts";
import { FormatBar } from "../text/format-bar.tsx";
import { type Box, SheetView } from "./view.ts";
import { beginWriting, type Writing } from "./writing.ts";

export interface SheetProps {
  readonly name: SheetName;
  /** Pixels of the email's window, and how much it is scaled. */
  readonly width: number;
  readonly scale: number;
  readonly picturesOff: boolean;
  readonly dark: boolean;
  readonly landing: Landing | null;
  /** Hands out the element that scrolls. */
  paneRef(pane: HTMLElement | null): void;
  readonly hovered: string | null;
  onHover(id: string | null): void;
  /** Begins writing when that is asked for from outside the sheets. */
  readonly answers: boolean;
  /** Hands the view out, for finding landing spots. */
  onView(view: SheetView | null): void;
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

const other = (name: SheetName): SheetName => (name === "wide" ? "narrow" : "wide");

export function Sheet(props: SheetProps) {
  const { name, width, scale, picturesOff, dark, landing, hovered, answers, onHover, onView } =
    props;
  const composer = useComposer();
  const frame = useRef<HTMLIFrameElement>(null);
  const [view, setView] = useState<SheetView | null>(null);
  const [height, setHeight] = useState(600);
  /** Counts layouts, so that what is drawn above is placed again. */
  const [layout, setLayout] = useState(0);
  const [writing, setWriting] = useState<Writing | null>(null);
  const [askingTag, setAskingTag] = useState<{ tag: Tag | null } | null>(null);
  const [, redraw] = useState(0);
  const popover = useRef(false);
  const shownFormat = useRef("");
  const latest = useRef(composer);
  latest.current = composer;
  const current = useRef<Writing | null>(null);
  /** The node whose text was begun to be written here, until nothing is asked for any more. */
  const began = useRef<string | null>(null);

  const open = useCallback(() => {
    const made = new SheetView(frame.current!);
    setView(made);
    onView(made);
  }, [onView]);
  // The frame may have loaded before this ran in the browser.
  useEffect(() => {
    if (frame.current?.contentDocument?.title === "Sheet") open();
    return () => onView(null);
  }, [open, onView]);

  const measure = useCallback(() => {
    if (!view) return;
    setHeight(view.height);
    setLayout((n) => n + 1);
  }, [view]);

  const { doc, lang, surroundings, reader, everything } = composer;
  useEffect(() => {
    if (!view) return;
    // The first time it takes its time: measuring tools can see when a sheet is there.
    if (view.show({ doc, lang, surroundings, reader, everything }) < 0)
      performance.mark(`${name} sheet written`);
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(view.document.body);
    return () => observer.disconnect();
  }, [view, name, doc, lang, surroundings, reader, everything, measure]);

  useEffect(() => {
    view?.document.documentElement.classList.toggle("pictures-off", picturesOff);
  }, [view, picturesOff]);

  const endWriting = useCallback(() => {
    const ended = current.current;
    if (!ended) return;
    current.current = null;
    setWriting(null);
    setAskingTag(null);
    ended.end();
    // What had to wait for the end of writing.
    const { doc, lang, surroundings, reader, everything } = latest.current;
    view?.show({ doc, lang, surroundings, reader, everything });
    // Where the other sheet has taken over, there is nothing to call off.
    if (latest.current.writing?.on !== other(name)) latest.current.write(null);
    measure();
  }, [view, measure, name]);

  const begin = useCallback(
    (node: string, at: Parameters<typeof beginWriting>[3]) => {
      if (!view || current.current?.node === node || latest.current.fixed) return;
      const { shown, doc, lang, translate } = latest.current;
      if (shown !== doc) {
        // Words of another language are written beside the original.
        latest.current.write(null);
        translate(lang);
        return;
      }
      endWriting();
      const begun = beginWriting(view, latest.current, node, at, {
        onUpdate: (view) => {
          // A key must not wait for the bar; what stands above the sheet follows when its size changes.
          const format = formatOf(view.state);
          if (format === shownFormat.current) return;
          shownFormat.current = format;
          redraw((n) => n + 1);
        },
        onAskTag: (tag) => {
          popover.current = true;
          setAskingTag({ tag });
        },
        onPaste: ({ tables, files, cut }) => {
          const { doc, addFiles, add, say } = latest.current;
          if (cut) say("It was long: only the beginning was pasted.");
          const nodes = blocksFrom(doc, tables);
          if (nodes.length) add({ kind: "ready", nodes, label: "Table" });
          if (files.length) addFiles(files);
        },
        onEnd: endWriting,
        onCell: (next) => {
          latest.current.select(next);
          latest.current.write(next, name);
        },
      });
      if (!begun) return;
      begun.element.addEventListener("blur", () => {
        // The format bar and its menus are outside the frame: they take the focus without ending this.
        setTimeout(() => {
          if (popover.current || current.current !== begun) return;
          if (
            begun.element.ownerDocument.activeElement !== begun.element ||
            !begun.element.ownerDocument.hasFocus()
          ) {
            endWriting();
          }
        }, 150);
      });
      current.current = begun;
      began.current = node;
      setWriting(begun);
      latest.current.write(node, name);
    },
    [view, name, endWriting],
  );

  useEffect(() => {
    if (!view) return;
    const page = view.document;
    const inText = (event: Event) => (event.target as Element).closest?.(".writing");
    const click = (event: MouseEvent) => {
      event.preventDefault();
      if (inText(event)) return;
      const how = event.shiftKey ? "range" : event.ctrlKey || event.metaKey ? "toggle" : "one";
      latest.current.select(SheetView.nodeAt(event.target), how);
    };
    const doubleClick = (event: MouseEvent) => {
      const id = SheetView.nodeAt(event.target);
      const text =
        (event.target as Element).closest<HTMLElement>("[data-text]")?.dataset.text ?? null;
      if (id && !inText(event)) begin(id, { x: event.clientX, y: event.clientY, text });
    };
    const move = (event: MouseEvent) => onHover(SheetView.nodeAt(event.target));
    const leave = () => onHover(null);
    const key = (event: KeyboardEvent) => {
      // Find and replace opens from the middle of a text too.
      const find = (event.ctrlKey || event.metaKey) && event.key === "f";
      if (!inText(event) || find) handleKey(event, latest.current);
    };
    const clip = (event: ClipboardEvent) => {
      if (!inText(event)) handleClipboard(event, latest.current);
    };
    const files = (event: DragEvent) => latest.current.placing.dragFiles(event);
    // A link or a file that is let go over the frame would lead it away.
    const drop = (event: DragEvent) => {
      if (!inText(event)) event.preventDefault();
    };
    page.addEventListener("click", click);
    page.addEventListener("dblclick", doubleClick);
    page.addEventListener("mousemove", move);
    page.addEventListener("mouseleave", leave);
    page.addEventListener("keydown", key);
    page.addEventListener("dragenter", files);
    page.addEventListener("dragover", drop);
    page.addEventListener("drop", drop);
    for (const kind of CLIPBOARD) page.addEventListener(kind, clip);
    return () => {
      page.removeEventListener("click", click);
      page.removeEventListener("dblclick", doubleClick);
      page.removeEventListener("mousemove", move);
      page.removeEventListener("mouseleave", leave);
      page.removeEventListener("keydown", key);
      page.removeEventListener("dragenter", files);
      page.removeEventListener("dragover", drop);
      page.removeEventListener("drop", drop);
      for (const kind of CLIPBOARD) page.removeEventListener(kind, clip);
    };
  }, [view, begin, onHover]);

  // Asked to write from outside (Enter in the running order): one of the sheets answers.
  useEffect(() => {
    const { writing: asked, selected } = composer;
    const mine = asked && (asked.on === name || (asked.on === null && answers));
    if (!asked) began.current = null;
    // What was begun here by a double-click may have ended before this runs: then it is not begun again.
    if (mine && asked.node !== (current.current?.node ?? began.current)) begin(asked.node, null);
    else if (current.current && !mine && (asked || current.current.node !== selected)) endWriting();
  }, [composer, name, answers, begin, endWriting]);

  // What is chosen elsewhere, or has just been put in, is brought into view; so is a spot chosen by keyboard.
  const { selected } = composer;
  const layoutKnown = layout > 0;
  const walked = composer.placing.walk ? landing : null;
  useEffect(() => {
    if (!view || !layoutKnown) return;
    const line = walked && { ...walked.line, height: walked.line.height ?? 1 };
    const box = line ?? (answers && selected ? view.boxOf(selected) : null);
    const room = frame.current?.closest("[data-pane]");
    if (!box || !room) return;
    const at = frame.current!.getBoundingClientRect();
    const seen = room.getBoundingClientRect();
    const top = at.top + box.y * scale;
    const bottom = top + box.height * scale;
    if (bottom < seen.top + 24 || top > seen.bottom - 24) {
      room.scrollBy({ top: top - seen.top - seen.height / 3 });
    }
  }, [view, answers, selected, layoutKnown, scale, walked]);

  useEffect(
    () => composer.session.beforeFlush(() => current.current?.editor.flush()),
    [composer.session],
  );

  return (
    <section
      ref={props.paneRef}
      aria-label={`${name === "wide" ? "Wide" : "Narrow"} sheet`}
      data-pane={name}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reachable by keyboard
      tabIndex={0}
      className="sheet-pane min-h-0 flex-none overflow-x-hidden overflow-y-auto px-2.5 pt-2 pb-10 focus-visible:-outline-offset-2"
    >
      <div className="mb-1 text-[11.5px] text-ink-3">{width} px</div>
      <div
        className="relative bg-[#ffffff] outline-1 outline-line"
        style={{ width: width * scale, height: height * scale }}
      >
        <iframe
          ref={frame}
          title={`The email, ${width} pixels wide`}
          src="/sheet"
          sandbox="allow-same-origin"
          onLoad={open}
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
          <Overlay
            view={view}
            scale={scale}
            layout={layout}
            hovered={hovered}
            landing={landing}
            writing={writing?.node ?? null}
          />
        )}
        {writing && view && (
          <div
            className="absolute z-20"
            style={{
              left: Math.min(
                Math.max(0, (view.boxOf(writing.node)?.x ?? 0) * scale),
                Math.max(0, width * scale - BAR_WIDTH),
              ),
              maxWidth: width * scale,
              // Where the bar takes two lines, it grows upwards and the words stay free.
              ...barPlace(view.boxOf(writing.node), scale, height),
            }}
          >
            <FormatBar
              editor={writing.editor}
              kind={writing.kind}
              askingTag={askingTag}
              onAskTag={setAskingTag}
              onPopover={(isOpen) => {
                popover.current = isOpen;
                if (!isOpen) setTimeout(() => current.current?.editor.view.focus(), 0);
              }}
            />
          </div>
        )}
      </div>
    </section>
  );
}
