/** A third sheet, to look at: the email in the dark, as plain text, or as another reader gets it. */
import { useDeferredValue, useEffect, useMemo, useRef, useState } from "react";
import { LATE } from "#core/blocks/index.ts";
import { inLanguage, languageOf } from "#core/languages/index.ts";
import { LIMITS } from "#core/limits.ts";
import { mergeText, prepare, unsigned } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { useWhatHolds } from "../../rules/who-sees.ts";
import { EMPTY_PAGE, isEmptyPage } from "../../ui/email-frame.tsx";
import { useLate } from "../../ui/late.ts";
import { Select } from "../../ui/select.tsx";
import { useReader, useReading } from "../reading/reading.ts";
import { useSession } from "../session/session.ts";
import type { ReaderChoice } from "../wire.ts";
import { ReaderSearch } from "./strip.tsx";
import { SheetView } from "./view.ts";
import type { SheetContent } from "./written.ts";

const KINDS = [
  { value: "dark", label: "Dark" },
  { value: "plain", label: "Plain text" },
  { value: "other", label: "Another reader" },
] as const;
type Kind = (typeof KINDS)[number]["value"];

/** What the sheet shows: as the other sheets, or for another contact. */
function useContent(other: ReaderChoice | null): SheetContent {
  const own: SheetContent = useReading("doc", "lang", "surroundings", "reader", "everything");
  const { conditions } = useReading(({ tags }) => tags);
  const { another } = useReader();
  const [readerOf] = useState(another);
  const known = useWhatHolds(useSession().campaign, conditions, other?.id ?? null);
  return useMemo(() => {
    if (!other) return own;
    const reader = readerOf(other, conditions, known);
    return { ...own, reader, lang: languageOf(own.doc, reader.values) };
  }, [own, other, readerOf, conditions, known]);
}

/** The plain text as it goes out. */
function Plain({ content }: { content: SheetContent }) {
  // Drawn again when all that blocks are rendered with is there; the sheets beside it have asked for it.
  useLate(LATE);
  const { doc, surroundings, lang, reader } = content;
  const email = prepare(compile(doc, surroundings, lang), {
    links: "direct",
    marks: false,
    sign: unsigned,
  });
  return (
    <pre className="min-h-40 border bg-sheet p-3 font-mono text-fine leading-snug whitespace-pre-wrap text-ink break-words">
      {mergeText(email.text, reader)}
    </pre>
  );
}

function Page({ content, dark, scale }: { content: SheetContent; dark: boolean; scale: number }) {
  const frame = useRef<HTMLIFrameElement>(null);
  const [view, setView] = useState<SheetView | null>(null);
  const [height, setHeight] = useState(600);
  const open = () => {
    const page = frame.current?.contentDocument;
    if (page && isEmptyPage(page)) setView(new SheetView(frame.current!));
  };
  // The frame may have loaded before this ran in the browser.
  useEffect(open, []);
  useEffect(() => {
    if (!view) return;
    const { doc, lang } = content;
    view.show({ ...content, doc: inLanguage(doc, lang) });
    setHeight(view.height);
    const observer = new ResizeObserver(() => setHeight(view.height));
    observer.observe(view.document.body);
    return () => observer.disconnect();
  }, [view, content]);
  const width = LIMITS.narrowWidth;
  return (
    <div
      className="relative bg-[#ffffff] outline-1 outline-line"
      style={{ width: width * scale, height: height * scale }}
    >
      <iframe
        ref={frame}
        title="The email on the third sheet"
        src={EMPTY_PAGE}
        sandbox="allow-same-origin"
        tabIndex={-1}
        onLoad={open}
        className="pointer-events-none absolute top-0 left-0 origin-top-left"
        style={{
          width,
          height,
          transform: `scale(${scale})`,
          colorScheme: dark ? "dark" : "light",
        }}
      />
    </div>
  );
}

export default function ThirdSheet({ scale }: { scale: number }) {
  const [kind, setKind] = useState<Kind>("dark");
  const [other, setOther] = useState<ReaderChoice | null>(null);
  const content = useDeferredValue(useContent(kind === "other" ? other : null));
  return (
    <section
      aria-label="Third sheet"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reachable by keyboard
      tabIndex={0}
      className="sheet-pane min-h-0 flex-none overflow-x-hidden overflow-y-auto px-2.5 pt-1 pb-10 focus-visible:-outline-offset-2"
      style={{ width: LIMITS.narrowWidth * scale + 32 }}
    >
      <div className="mb-1 flex h-6 items-center gap-2 text-small">
        <Select
          label="What the third sheet shows"
          value={kind}
          options={KINDS}
          onValue={(next) => next && setKind(next)}
          look="rounded px-1 text-small"
          className="w-auto"
        />
        {kind === "other" && <ReaderSearch reader={other} onReader={setOther} />}
      </div>
      {kind === "plain" ? (
        <Plain content={content} />
      ) : (
        <Page content={content} dark={kind === "dark"} scale={scale} />
      )}
    </section>
  );
}
