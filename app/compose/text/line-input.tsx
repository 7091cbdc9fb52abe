/** A field for a line of words and merge tags. */
import { useEffect, useId, useRef, useState } from "react";
import { tagWords } from "#core/merge/index.ts";
import { applySteps, type Tag, type TextJson, type Typed, typedSteps } from "#core/text/index.ts";
import { INPUT } from "../../ui/field.tsx";
import { useLate } from "../../ui/late.ts";
import { useReading } from "../reading/reading.ts";
import { useSession } from "../session/session.ts";
import type { TextEditor } from "./editor.ts";
import { followText, typeInto, writeText } from "./follow.ts";
import { editing } from "./late.ts";
import { StillLine } from "./still-line.tsx";
import { TagMenu } from "./tag-menu.tsx";

/**
 * Writes straight into the document where `at` is given; with `onText` it keeps what is typed and
 * hands it over when the field is left (for addresses, which are only right as a whole).
 */
export function LineInput({
  label,
  hint,
  error,
  text,
  at,
  onText,
}: {
  label: string;
  hint?: string;
  error?: string | null;
  text: TextJson;
  /** The place of the text in the document; without it, `onText` gets what was typed. */
  at?: { node: string; path: readonly string[] };
  onText?: (text: TextJson) => void;
}) {
  const { reader, tags, doc } = useReading("reader", "tags", "doc");
  const session = useSession();
  const tools = useLate(editing);
  /** What was typed when it became one to write in; null where the focus was elsewhere. */
  const typed = useRef<Typed | null>(null);
  const place = useRef<HTMLDivElement>(null);
  const editor = useRef<TextEditor | null>(null);
  /** The merge tags are asked for: a new one, or one that is changed. */
  const [asking, setAsking] = useState<{ tag: Tag | null } | null>(null);
  const [seeing, setSeeing] = useState(false);
  const [, redraw] = useState(0);
  const id = useId();
  const lang = String(doc.root.props.lang);
  const latest = useRef({ at, onText, reader, tags });
  latest.current = { at, onText, reader, tags };

  // biome-ignore lint/correctness/useExhaustiveDependencies: the editor is made once; later texts are put into it
  useEffect(() => {
    if (!tools) return;
    const made = tools.createTextEditor(place.current!, {
      kind: "line",
      text,
      tagClass: "tag",
      tagWords: (tag) => tagWords(tag, latest.current.reader, latest.current.tags),
      attributes: {
        class: "line-editor",
        role: "textbox",
        "aria-label": label,
        "aria-describedby": `${id}-about`,
      },
      onTyping: () => {
        if (latest.current.at) session.typing();
      },
      onSteps: (steps) => {
        const place = latest.current.at;
        if (place) writeText(session, { ...place, steps }, (now) => made.replace(now, true));
      },
      onHistory: (what) => session[what](),
      onAskTag: (tag) => setAsking({ tag }),
      lang,
      onEnter: () => {
        if (!latest.current.onText) return;
        latest.current.onText(made.view.state.doc.toJSON() as TextJson);
        // In a form Enter hands it in, as in any other field; what was typed is taken first.
        const form = place.current?.closest("form");
        setTimeout(() => form?.requestSubmit());
      },
    });
    editor.current = made;
    redraw((n) => n + 1);
    const unregister = session.beforeFlush(() => made.flush());
    const unfollow = followText(session, () => latest.current.at ?? null, made);
    if (typed.current) {
      made.toEnd();
      made.goOn(typed.current);
    }
    typed.current = null;
    return () => {
      unregister();
      unfollow();
      made.destroy();
      editor.current = null;
    };
  }, [id, label, session, tools]);

  // Where the text stands in the document, the editor follows that; elsewhere it is told.
  useEffect(() => {
    if (!latest.current.at) editor.current?.replace(text);
  }, [text]);

  /** What was typed before there was an editor. */
  const take = (typed: Typed) => {
    if (at) typeInto(session, at, typed);
    else if (typed.words || typed.replaces) onText?.(applySteps(text, typedSteps(text, typed)));
  };
  const leave = () => {
    if (!editor.current) return;
    editor.current.flush();
    latest.current.onText?.(editor.current.view.state.doc.toJSON() as TextJson);
  };
  return (
    <div data-line={at?.path.join(".")}>
      <div className="mb-1 text-small text-ink-2">{label}</div>
      <div
        className={`${INPUT} flex items-start gap-1.5 focus-within:outline-2 focus-within:outline-plum ${error ? "border-rust" : ""}`}
      >
        {/* biome-ignore lint/a11y/noStaticElementInteractions: the text box is made inside it */}
        <div ref={place} className="min-w-0 flex-1" onBlur={leave}>
          {!tools && (
            <StillLine
              label={label}
              about={`${id}-about`}
              text={text}
              onTyped={take}
              onReady={(soFar) => {
                typed.current = soFar;
              }}
            />
          )}
        </div>
        {/* As high as one line, so that the field is as high as any other. */}
        <span className="-my-1 flex flex-none items-center gap-0.5 [&>button]:inline-flex [&>button]:size-6 [&>button]:items-center [&>button]:justify-center [&_svg]:size-3.5">
          {at && tools && editor.current && (
            <tools.WordsTool editor={editor.current} open={seeing} onOpen={setSeeing} />
          )}
          <TagMenu
            open={asking !== null}
            tag={asking?.tag}
            onOpenChange={(open) => {
              if (!open) editor.current?.leaveTag();
              setAsking(open ? { tag: null } : null);
            }}
            onChoose={(tag) => editor.current?.insertTag(tag)}
          />
        </span>
      </div>
      <div id={`${id}-about`}>
        {hint && !error && <p className="mt-1 text-small text-ink-3">{hint}</p>}
        {error && (
          <p role="alert" className="mt-1 text-small font-semibold text-rust">
            {error}
          </p>
        )}
      </div>
    </div>
  );
}
