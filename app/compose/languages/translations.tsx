/** An email's words beside their translations, for one language at a time. */
import { useEffect, useMemo, useRef, useState } from "react";
import type { EmailProps } from "#core/blocks/layout.ts";
import { derivedIdOf } from "#core/derived/index.ts";
import type { Json } from "#core/json.ts";
import { type HandText, handParts } from "#core/kinds/hand-text.ts";
import type { Surroundings } from "#core/kinds/kind.ts";
import {
  languageName,
  shownIn,
  stateOf,
  type Translatable,
  type TranslationState,
  translatables,
  translating,
  translationCount,
  translationKey,
  translationOf,
} from "#core/languages/index.ts";
import { tagWords } from "#core/merge/index.ts";
import {
  type Link,
  lineLiquid,
  liquidLine,
  type TextJson,
  type TextKind,
} from "#core/text/index.ts";
import { ruleWords } from "../../rules/words.ts";
import { Button, Buttonlike } from "../../ui/button.tsx";
import { Dialog } from "../../ui/dialog.tsx";
import { INPUT } from "../../ui/field.tsx";
import { Chip } from "../../ui/page.tsx";
import { PicturePicker } from "../../ui/picture-picker.tsx";
import { Segmented } from "../../ui/segmented.tsx";
import { useCommands } from "../doing/commands.ts";
import { usePanels } from "../panels/open.ts";
import type { PanelProps } from "../panels/panel.ts";
import { useReader, useReading } from "../reading/reading.ts";
import { useSession } from "../session/session.ts";
import { HandWords } from "../settings/hand-words.tsx";
import { createTextEditor, type TextEditor } from "../text/editor.ts";
import { checkedLink } from "../text/link-fields.tsx";

const STATES: Readonly<Record<TranslationState, { label: string; tone: "some" | "done" } | null>> =
  {
    missing: { label: "not translated", tone: "some" },
    stale: { label: "the original has changed", tone: "some" },
    done: null,
  };

/** A text as it reads, with tags as the reader sees them. */
function Original({ text }: { text: TextJson }) {
  const { reader, tags } = useReading("reader", "tags");
  const words = (node: TextJson): string =>
    node.type === "tag"
      ? tagWords(node.attrs as never, reader, tags) || "…"
      : (node.text ?? (node.content ?? []).map(words).join(""));
  const blocks = text.type === "doc" ? (text.content ?? []) : [text];
  return blocks.map((block, i) => <p key={i}>{words(block)}</p>);
}

function TextTranslation({ one, lang }: { one: Translatable; lang: string }) {
  const { run } = useCommands();
  const { reader, tags } = useReading("reader", "tags");
  const session = useSession();
  const place = useRef<HTMLDivElement>(null);
  const editor = useRef<TextEditor | null>(null);
  const text = shownIn(one, lang) as unknown as TextJson;
  const latest = useRef({ one, run, reader, tags });
  latest.current = { one, run, reader, tags };
  // biome-ignore lint/correctness/useExhaustiveDependencies: the editor is made once; later texts are put into it
  useEffect(() => {
    const made = createTextEditor(place.current!, {
      kind: one.kind as TextKind,
      text,
      lang,
      tagClass: "tag",
      tagWords: (tag) => tagWords(tag, latest.current.reader, { ...latest.current.tags, lang }),
      attributes: {
        class: "line-editor",
        role: "textbox",
        "aria-label": `${one.label} in ${languageName(lang)}`,
      },
      onSteps: () => {
        const value = made.view.state.doc.toJSON() as Json;
        const { one: now, run: act } = latest.current;
        act({ edit: translating(now, lang, value) });
      },
      onHistory: (what) => session[what](),
    });
    editor.current = made;
    const unregister = session.beforeFlush(() => made.flush());
    return () => {
      unregister();
      made.destroy();
      editor.current = null;
    };
  }, [lang, session]);
  useEffect(() => {
    editor.current?.replace(text);
  }, [text]);
  return (
    <div ref={place} className={`${INPUT} focus-within:outline-2 focus-within:outline-plum`} />
  );
}

function LinkTranslation({ one, lang }: { one: Translatable; lang: string }) {
  const { run } = useCommands();
  const [problem, setProblem] = useState<string | null>(null);
  const address = (value: Json | undefined) => {
    const line = (value as unknown as { address?: TextJson } | undefined)?.address;
    return line ? lineLiquid(line) : "";
  };
  const stored = address(translationOf(one, lang));
  return (
    <>
      <input
        key={stored}
        aria-label={`${one.label} in ${languageName(lang)}`}
        defaultValue={stored}
        placeholder={address(one.source)}
        className={INPUT}
        onBlur={(event) => {
          const written = event.target.value.trim();
          if (written === stored) return;
          const link: Link = { kind: "web", address: liquidLine(written) };
          const checked = written === "" ? { link: null, problem: null } : checkedLink(link);
          setProblem(checked.problem);
          if (checked.problem) return;
          run({ edit: translating(one, lang, written === "" ? null : (link as never)) });
        }}
      />
      {problem && <p className="mt-1 text-small text-rust">{problem}</p>}
    </>
  );
}

function PictureTranslation({ one, lang }: { one: Translatable; lang: string }) {
  const { run } = useCommands();
  const { surroundings } = useReading("surroundings");
  const { addPicture } = useReader();
  const stored = translationOf(one, lang);
  const own = typeof stored === "string" && stored !== "" ? stored : null;
  return (
    <div className="flex items-center gap-2">
      <PicturePicker
        title={`${one.label} in ${languageName(lang)}`}
        taken={own}
        here={[...surroundings.pictures.values()]}
        onTake={(picture) => {
          addPicture(picture);
          run({ edit: translating(one, lang, picture.id) });
        }}
        trigger={
          <Buttonlike type="button" aria-label={`${one.label} in ${languageName(lang)}`}>
            {own ? nameOfPicture(own, surroundings) : "The same image"}
          </Buttonlike>
        }
      />
      {own && (
        <button
          type="button"
          className="link text-small"
          onClick={() => run({ edit: translating(one, lang, null) })}
        >
          The same image
        </button>
      )}
    </div>
  );
}

/** Plain text by hand in another language; left empty, it is made from the block as it reads there. */
function PlainTranslation({ one, lang }: { one: Translatable; lang: string }) {
  const { run } = useCommands();
  const { of } = one.source as unknown as HandText;
  const stored = translationOf(one, lang) as unknown as HandText | undefined;
  return (
    <div className="flex flex-col gap-2">
      <HandWords
        label={`${one.label} in ${languageName(lang)}`}
        value={stored ?? { source: "", of }}
        placeholder="Made from the block in this language."
        onChange={(written) => {
          const nothing = written.source.trim() === "" && !written.alternatives;
          run({ edit: translating(one, lang, nothing ? null : { ...written, of }) });
        }}
      />
    </div>
  );
}

/** What a picture is called, or what chooses it. */
const nameOfPicture = (id: string, { pictures, derived }: Surroundings): string =>
  pictures.get(id)?.name ?? derived?.get(derivedIdOf(id) ?? "")?.name ?? "No image";

function Row({ one, lang }: { one: Translatable; lang: string }) {
  const { run } = useCommands();
  const { surroundings, whoSees } = useReading("surroundings", "whoSees");
  const state = STATES[stateOf(one, lang)];
  const again = () => {
    run({ edit: translating(one, lang, shownIn(one, lang)) });
  };
  return (
    <li className="grid grid-cols-2 gap-5 border-b py-2.5">
      <div>
        <div className="mb-1 text-small text-ink-2">{one.label}</div>
        {one.kind === "link" ? (
          <p className="break-all">
            <Original text={(one.source as unknown as { address: TextJson }).address} />
          </p>
        ) : one.kind === "picture" ? (
          <p>{nameOfPicture(String(one.source), surroundings)}</p>
        ) : one.kind === "plain" ? (
          handParts(one.source as unknown as HandText).map(({ seen, source }, i) => (
            <div key={i} className="mb-1.5">
              {seen.chain !== null && (
                <p className="text-small text-ink-2">
                  For: {ruleWords(seen.seenBy, whoSees, true)}
                </p>
              )}
              <p className="whitespace-pre-wrap">{source}</p>
            </div>
          ))
        ) : (
          <Original text={one.source as unknown as TextJson} />
        )}
      </div>
      <div>
        <div className="mb-1 flex h-4 items-center gap-2 text-small">
          {state && <Chip tone={state.tone}>{state.label}</Chip>}
          {state && (
            <button type="button" className="link text-small" onClick={again}>
              {state === STATES.stale ? "It still fits" : "It stays as it is"}
            </button>
          )}
        </div>
        {one.kind === "link" ? (
          <LinkTranslation one={one} lang={lang} />
        ) : one.kind === "picture" ? (
          <PictureTranslation one={one} lang={lang} />
        ) : one.kind === "plain" ? (
          <PlainTranslation one={one} lang={lang} />
        ) : (
          <TextTranslation one={one} lang={lang} />
        )}
      </div>
    </li>
  );
}

/** All texts in another language beside the original. */
export default function Translations({ subject: lang, onClose }: PanelProps) {
  const { open } = usePanels();
  const { doc } = useReading("doc");
  const { others } = doc.root.props as unknown as EmailProps;
  const [only, setOnly] = useState(false);
  // What was open when only the unfinished are shown stays until the list is asked for again.
  const [kept, setKept] = useState<ReadonlySet<string> | null>(null);
  const all = useMemo(() => translatables(doc), [doc]);
  if (!others.includes(lang)) return null;
  const keyOf = (one: Translatable) => `${one.node.id} ${translationKey(one.path)}`;
  const count = translationCount(doc, lang);
  const rows = only && kept ? all.filter((one) => kept.has(keyOf(one))) : all;
  const unfinished = () => new Set(all.filter((one) => stateOf(one, lang) !== "done").map(keyOf));
  return (
    <Dialog title="Translations" wide open onOpenChange={onClose}>
      <div className="mb-3 flex flex-wrap items-center gap-4">
        <Segmented
          label="Language"
          value={lang}
          options={others.map((one) => ({ value: one, label: languageName(one) }))}
          onChange={(next) => {
            setOnly(false);
            open("translations", next);
          }}
        />
        <span className="text-small text-ink-2" data-translated>
          {count.all - count.missing} of {count.all} texts translated
          {count.stale > 0 && `, ${count.stale} to look at again`}
        </span>
        <Button
          aria-pressed={only}
          onClick={() => {
            setKept(unfinished());
            setOnly(!only);
          }}
        >
          {only ? "Show all" : "Only what is left to do"}
        </Button>
      </div>
      <ul className="border-t">
        {rows.map((one) => (
          <Row key={`${lang} ${keyOf(one)}`} one={one} lang={lang} />
        ))}
      </ul>
      {rows.length === 0 && <p className="py-4 text-ink-2">Nothing is left to do.</p>}
    </Dialog>
  );
}
