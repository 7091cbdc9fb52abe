/** HTML and CSS written by hand, coloured and numbered. Loaded when it is first shown. */
import { defaultKeymap, history, historyKeymap } from "@codemirror/commands";
import { html } from "@codemirror/lang-html";
import { bracketMatching, HighlightStyle, syntaxHighlighting } from "@codemirror/language";
import { EditorState } from "@codemirror/state";
import { drawSelection, EditorView, keymap, lineNumbers } from "@codemirror/view";
import { tags } from "@lezer/highlight";
import { useEffect, useEffectEvent, useRef } from "react";

const COLOURS = HighlightStyle.define([
  { tag: [tags.tagName, tags.angleBracket, tags.keyword], color: "var(--plum)" },
  { tag: [tags.attributeName, tags.propertyName], color: "var(--leaf)" },
  { tag: [tags.attributeValue, tags.string, tags.number, tags.unit], color: "var(--rust)" },
  { tag: [tags.comment, tags.processingInstruction], color: "var(--ink-3)", fontStyle: "italic" },
]);
const LOOK = EditorView.theme({
  "&": { fontSize: "var(--text-small)", backgroundColor: "transparent", color: "var(--ink)" },
  "&.cm-focused": { outline: "none" },
  ".cm-scroller": { fontFamily: "ui-monospace, monospace", lineHeight: "1.4", maxHeight: "340px" },
  ".cm-content": { minHeight: "150px", caretColor: "var(--ink)", padding: "6px 0" },
  ".cm-cursor": { borderLeftColor: "var(--ink)" },
  ".cm-gutters": { backgroundColor: "transparent", color: "var(--ink-3)", border: "none" },
  "&.cm-focused > .cm-scroller > .cm-selectionLayer .cm-selectionBackground, .cm-selectionBackground":
    { backgroundColor: "var(--plum-soft)" },
  ".cm-matchingBracket": { backgroundColor: "var(--saffron-soft)" },
});

export interface CodeProps {
  id?: string;
  label: string;
  "aria-describedby"?: string;
  value: string;
  onValue: (value: string) => void;
  /** Left, or saved by Ctrl+Enter. */
  onDone: () => void;
}

export default function CodeEditor({ id, label, value, onValue, onDone, ...ids }: CodeProps) {
  const place = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(null);
  const hears = useEffectEvent(onValue);
  const done = useEffectEvent(onDone);
  const described = ids["aria-describedby"];
  // biome-ignore lint/correctness/useExhaustiveDependencies: the editor is made once, and follows the value below
  useEffect(() => {
    const state = EditorState.create({
      doc: value,
      extensions: [
        lineNumbers(),
        history(),
        drawSelection(),
        bracketMatching(),
        // What is typed is what stands there: closing tags are not put in by themselves.
        html({ autoCloseTags: false }),
        syntaxHighlighting(COLOURS),
        LOOK,
        EditorView.lineWrapping,
        keymap.of([
          {
            key: "Mod-Enter",
            run: () => {
              done();
              return true;
            },
          },
          ...defaultKeymap,
          ...historyKeymap,
        ]),
        EditorView.contentAttributes.of({
          "aria-label": label,
          ...(id && { id }),
          ...(described && { "aria-describedby": described }),
          spellcheck: "false",
        }),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) hears(update.state.doc.toString());
        }),
        EditorView.domEventHandlers({ blur: () => done() }),
      ],
    });
    const made = new EditorView({ state, parent: place.current! });
    view.current = made;
    return () => made.destroy();
  }, []);
  useEffect(() => {
    const shown = view.current;
    const old = shown?.state.doc.toString();
    if (!shown || old === value) return;
    shown.dispatch({ changes: { from: 0, to: old!.length, insert: value } });
  }, [value]);
  return (
    <div
      ref={place}
      className="overflow-hidden rounded-md border border-field bg-sheet focus-within:outline-2 focus-within:outline-plum"
    />
  );
}
