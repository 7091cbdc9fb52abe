/** The email as a line of an inbox, wide and narrow, with what is cut off there. It lies over the foot of the sheets, so that nothing moves when it comes and goes. */
import { useEffect, useMemo, useState } from "react";
import type { EmailProps } from "#core/blocks/layout.ts";
import { envelopeAddress, lineWords } from "#core/merge/index.ts";
import { useReading } from "../reading/reading.ts";
import { useSelection } from "../selection/selection.ts";
import { type Cut, cutOff, type Measure } from "./cut.ts";

/** Widths of the two inboxes and of what stands beside the words in them, px. */
const WIDE = { width: 720, sender: 150, beside: 84 };
const NARROW = { width: 330, beside: 24 };
const FONT = "system-ui, sans-serif";
/** They are drawn smaller than they are, so that both stand beside each other over the sheets. */
const SCALE = 0.72;

/** On the server nothing can be measured: there everything fits. */
const UNMEASURED: Measure = () => 0;

let canvas: CanvasRenderingContext2D | null | undefined;
function measureIn(font: string): Measure {
  canvas ??= document.createElement("canvas").getContext("2d");
  return (text) => {
    if (!canvas) return 0;
    canvas.font = font;
    return canvas.measureText(text).width;
  };
}

/** What a cut leaves out, in words. */
function Rest({ label, cut }: { label: string; cut: Cut }) {
  if (!cut.rest) return null;
  return (
    <p className="truncate text-small text-ink-3" title={cut.rest}>
      {label} cut off: <span className="text-saffron-ink">“{cut.rest}”</span>
    </p>
  );
}

export function InboxLines() {
  const { doc, shown: email, reader, tags } = useReading("doc", "shown", "reader", "tags");
  const { selected } = useSelection("selected");
  const { envelope } = email.root.props as unknown as EmailProps;
  // The first drawing is the same as on the server.
  const [drawn, setDrawn] = useState(false);
  useEffect(() => setDrawn(true), []);
  const shown = selected === "envelope" || selected === doc.root.id;
  const lines = useMemo(() => {
    if (!shown) return null;
    const words = (text: EmailProps["envelope"]["subject"]) => lineWords(text, reader, tags).trim();
    const [from, subject, preview] = [
      words(envelope.fromName) ||
        envelopeAddress(envelope.fromAddress, reader, tags) ||
        "No sender",
      words(envelope.subject) || "No subject yet",
      words(envelope.preview),
    ];
    const bold = drawn ? measureIn(`600 14px ${FONT}`) : UNMEASURED;
    const plain = drawn ? measureIn(`400 14px ${FONT}`) : UNMEASURED;
    const room = WIDE.width - WIDE.sender - WIDE.beside;
    const subjectWide = cutOff(subject, room, 1, bold);
    const left = room - bold(subjectWide.lines[0] ?? "") - plain(" – ");
    const narrow = NARROW.width - NARROW.beside;
    return {
      from: cutOff(from, WIDE.sender - 12, 1, bold),
      fromNarrow: cutOff(from, narrow - 50, 1, bold),
      subjectWide,
      previewWide: left > 30 ? cutOff(preview, left, 1, plain) : { lines: [], rest: preview },
      subjectNarrow: cutOff(subject, narrow, 1, bold),
      previewNarrow: cutOff(preview, narrow, 2, plain),
    };
  }, [shown, drawn, envelope, tags, reader]);
  if (!lines) return null;
  const box =
    "rounded-md border bg-sheet px-3 py-2 text-body leading-snug [font-family:system-ui,sans-serif]";
  return (
    <section
      aria-label="In the inbox"
      className="absolute inset-x-0 bottom-0 z-10 flex gap-x-5 overflow-x-auto border-t bg-paper px-3.5 pt-1.5 pb-2.5 max-[560px]:hidden"
    >
      <div className="flex-none" style={{ width: WIDE.width * SCALE }}>
        <h3 className="mb-1 text-small text-ink-2 italic">In a wide inbox</h3>
        <div
          className={`${box} flex whitespace-nowrap`}
          style={{ width: WIDE.width, zoom: SCALE }}
          data-inbox="wide"
        >
          <strong className="flex-none truncate pr-3 font-semibold" style={{ width: WIDE.sender }}>
            {lines.from.lines[0]}
          </strong>
          <span className="min-w-0 flex-1 overflow-hidden">
            <strong className="font-semibold">{lines.subjectWide.lines[0]}</strong>
            {lines.previewWide.lines[0] && (
              <span className="text-ink-2"> – {lines.previewWide.lines[0]}</span>
            )}
          </span>
          <span className="text-small text-ink-3">9:30</span>
        </div>
        <Rest label="Subject" cut={lines.subjectWide} />
        <Rest label="Preview text" cut={lines.previewWide} />
      </div>
      <div className="flex-none" style={{ width: NARROW.width * SCALE }}>
        <h3 className="mb-1 text-small text-ink-2 italic">In a narrow inbox</h3>
        <div className={box} style={{ width: NARROW.width, zoom: SCALE }} data-inbox="narrow">
          <div className="flex justify-between">
            <strong className="font-semibold">{lines.fromNarrow.lines[0]}</strong>
            <span className="text-small text-ink-3">9:30</span>
          </div>
          <div className="font-semibold whitespace-nowrap">{lines.subjectNarrow.lines[0]}</div>
          {lines.previewNarrow.lines.map((line) => (
            <div key={line} className="whitespace-nowrap text-ink-2">
              {line}
            </div>
          ))}
        </div>
        <Rest label="Subject" cut={lines.subjectNarrow} />
        <Rest label="Preview text" cut={lines.previewNarrow} />
      </div>
    </section>
  );
}
