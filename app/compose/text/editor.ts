/** Writing: a ProseMirror view on a text of the document, in a field or on a sheet. */
import { history } from "prosemirror-history";
import { keymap } from "prosemirror-keymap";
import {
  EditorState,
  NodeSelection,
  Selection,
  TextSelection,
  type Transaction,
} from "prosemirror-state";
import { EditorView } from "prosemirror-view";
import type { Json } from "#core/json.ts";
import { parseText, type Tag, type TextJson, type Typed, textSchema } from "#core/text/index.ts";
import { type KeyOptions, keysOf, wholeOf } from "./keys.ts";
import { listRules } from "./lists.ts";
import { type PastedText, pasteInto } from "./paste.ts";

export interface TextEditorOptions extends KeyOptions {
  readonly text: TextJson;
  /** What a tag shows. */
  readonly tagWords: (tag: Tag) => string;
  /** Class of a tag's element; sheets mark theirs by attribute. */
  readonly tagClass?: string;
  readonly attributes?: Record<string, string>;
  /** Called while hands write, and when writing ends, with the steps since the last time. */
  readonly onSteps: (steps: Json[]) => void;
  /** Called when the first of steps yet to be sent is made. */
  readonly onTyping?: () => void;
  /** Called at every change of text or selection. */
  readonly onUpdate?: (view: EditorView) => void;
  /** What is pasted and stands beside a text may part it in two. */
  readonly splits?: boolean;
  /**
   * Called after a paste with what does not go into a text, and whether the paste was cut short. Gives whether that
   * could be put beside it; else the text is not parted.
   */
  readonly onPaste?: (beside: PastedText["beside"] & { cut: boolean }) => boolean;
  /** The language of the words (BCP 47), for spelling. */
  readonly lang?: string;
}

export interface TextEditor {
  readonly view: EditorView;
  /** Puts a tag in the place of the selection. */
  insertTag(tag: Tag): void;
  insertWords(words: string): void;
  /** Takes the focus, and what was typed before it was there. */
  goOn(typed: Typed): void;
  /** Puts the cursor at the end. */
  toEnd(): void;
  /** Puts the cursor behind a tag that is selected, so that what is typed next does not replace it. */
  leaveTag(): void;
  /**
   * Brings the text to what it is in the document now; the selection stays where its words are. Nothing happens while
   * steps are waiting: they are handed over first. `refused`: the document is as it was, the hands have gone on.
   */
  replace(text: TextJson, refused?: boolean): void;
  flush(): void;
  destroy(): void;
}

/** What a transaction did, taken back. */
function undoing({ tr }: EditorState, { steps, docs }: Transaction): Transaction {
  for (const [i, step] of [...steps.entries()].reverse()) tr.step(step.invert(docs[i]!));
  return tr;
}

/** Marks what comes from the document and not from the hands. */
const FROM_DOCUMENT = "from document";

/** How often what is typed becomes an edit, ms: other places that show the text follow by it. */
const PACE_MS = 150;

export function createTextEditor(
  place: { mount: HTMLElement } | HTMLElement,
  options: TextEditorOptions,
): TextEditor {
  const { kind } = options;
  const stateOf = (text: TextJson) =>
    EditorState.create({
      doc: parseText(text, kind),
      plugins: [
        ...(options.onHistory ? [] : [history()]),
        ...(kind === "doc" ? [listRules()] : []),
        ...keysOf(options).map((keys) => keymap(keys)),
      ],
    });

  let waiting: Json[] = [];
  /** The text of the document that is shown already. */
  let known: TextJson | null = options.text;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const flush = () => {
    clearTimeout(timer);
    timer = undefined;
    if (waiting.length === 0) return;
    const steps = waiting;
    waiting = [];
    options.onSteps(steps);
  };

  const view: EditorView = new EditorView(place, {
    state: stateOf(options.text),
    attributes: {
      spellcheck: "true",
      ...(options.lang && { lang: options.lang }),
      ...options.attributes,
    },
    nodeViews: {
      tag: (node, owner) => {
        const dom = owner.dom.ownerDocument.createElement("span");
        dom.dataset.tag = node.attrs.ref as string;
        if (options.tagClass) dom.className = options.tagClass;
        dom.textContent = options.tagWords(node.attrs as unknown as Tag) || "…";
        return { dom };
      },
    },
    dispatchTransaction(transaction) {
      view.updateState(view.state.apply(transaction));
      if (transaction.docChanged && !transaction.getMeta(FROM_DOCUMENT)) {
        if (waiting.length === 0) options.onTyping?.();
        waiting.push(...transaction.steps.map((step) => step.toJSON() as Json));
        timer ??= setTimeout(flush, PACE_MS);
      }
      options.onUpdate?.(view);
    },
    handleTextInput(_view, _from, _to, text) {
      if (text !== "{" || !options.onAskTag) return false;
      options.onAskTag(null);
      return true;
    },
    handlePaste(target, event) {
      const html = event.clipboardData?.getData("text/html") ?? "";
      // Own texts keep their marks and tags; anything else comes in as words.
      if (html.includes("data-pm-slice") && kind !== "line") return false;
      if (!event.clipboardData) return false;
      const { change, beside, cut } = pasteInto(
        target.state,
        kind,
        event.clipboardData,
        options.splits,
      );
      if (change) target.dispatch(change);
      const put = options.onPaste?.({ ...beside, cut }) ?? true;
      if (change && beside.rest && !put) target.dispatch(undoing(target.state, change));
      return true;
    },
    handleClickOn(target, _pos, node, nodePos, _event, direct) {
      if (!direct || node.type.name !== "tag") return false;
      target.dispatch(
        target.state.tr.setSelection(NodeSelection.create(target.state.doc, nodePos)),
      );
      options.onAskTag?.(node.attrs as unknown as Tag);
      return true;
    },
  });

  const leaveTag = () => {
    const { selection, tr } = view.state;
    if (!(selection instanceof NodeSelection)) return;
    view.dispatch(tr.setSelection(TextSelection.create(tr.doc, selection.to)));
  };

  return {
    view,
    insertTag(tag) {
      const node = textSchema.nodes.tag!.create({ ...tag });
      view.dispatch(view.state.tr.replaceSelectionWith(node, true).scrollIntoView());
      view.focus();
    },
    insertWords(words) {
      leaveTag();
      view.dispatch(view.state.tr.insertText(words).scrollIntoView());
      view.focus();
    },
    leaveTag,
    goOn({ words, replaces, selects }) {
      const { tr } = view.state;
      if (replaces) tr.setSelection(wholeOf(tr.doc)).deleteSelection();
      if (words) tr.insertText(words);
      if (selects) tr.setSelection(wholeOf(tr.doc));
      view.dispatch(tr);
      view.focus();
    },
    toEnd() {
      const { doc, tr } = view.state;
      view.dispatch(tr.setSelection(Selection.atEnd(doc)));
    },
    replace(text, refused = false) {
      if (waiting.length > 0 || (text === known && !refused)) return;
      known = text;
      const { state } = view;
      const next = parseText(text, kind);
      const start = state.doc.content.findDiffStart(next.content);
      const end = start === null ? null : state.doc.content.findDiffEnd(next.content);
      if (start === null || !end) return;
      // Where the same letters stand on both sides of the change, its two ends can cross.
      const cross = Math.max(0, start - Math.min(end.a, end.b));
      const tr = state.tr.replace(start, end.a + cross, next.slice(start, end.b + cross));
      view.dispatch(tr.setMeta(FROM_DOCUMENT, true).setMeta("addToHistory", false));
    },
    flush,
    destroy() {
      flush();
      view.destroy();
    },
  };
}
