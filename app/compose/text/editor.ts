/** Writing: a ProseMirror view on a text of the document, in a field or on a sheet. */
import { baseKeymap, lift, toggleMark, wrapIn } from "prosemirror-commands";
import { history, redo, undo } from "prosemirror-history";
import { keymap } from "prosemirror-keymap";
import type { Mark } from "prosemirror-model";
import { liftListItem, sinkListItem, splitListItem } from "prosemirror-schema-list";
import {
  type Command,
  EditorState,
  NodeSelection,
  Selection,
  TextSelection,
  type Transaction,
} from "prosemirror-state";
import { EditorView } from "prosemirror-view";
import type { Json } from "#core/json.ts";
import { parseText, type Tag, type TextJson, type TextKind, textSchema } from "#core/text/index.ts";
import { listOf, listRules, toggleList } from "./lists.ts";
import { type PastedText, pasteInto } from "./paste.ts";
import { seenAt } from "./seen-words.ts";

export interface TextEditorOptions {
  readonly kind: TextKind;
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
  /** Called for undo and redo where they are the document's; without it the field has its own. */
  readonly onHistory?: (what: "undo" | "redo") => void;
  /** Called at every change of text or selection. */
  readonly onUpdate?: (view: EditorView) => void;
  /** Called when the person asks for the merge tags, or clicks on one to change it. */
  readonly onAskTag?: (tag: Tag | null) => void;
  /** Called when the person asks for the link of the selection. */
  readonly onAskLink?: () => void;
  /** Called when the person wants to go to the bar (Alt+F10, as in other editors). */
  readonly onAskBar?: () => void;
  /** What is pasted and stands beside a text may part it in two. */
  readonly splits?: boolean;
  /**
   * Called after a paste with what does not go into a text, and whether the paste was cut short. Gives whether that
   * could be put beside it; else the text is not parted.
   */
  readonly onPaste?: (beside: PastedText["beside"] & { cut: boolean }) => boolean;
  /** The language of the words (BCP 47), for spelling. */
  readonly lang?: string;
  readonly onEscape?: () => void;
  readonly onEnter?: () => void;
  /** In a cell of a table: on to the next, or back. Gives whether there was one. */
  readonly onTab?: (back: boolean) => boolean;
}

export interface TextEditor {
  readonly view: EditorView;
  /** Puts a tag in the place of the selection. */
  insertTag(tag: Tag): void;
  insertWords(words: string): void;
  /** Puts the cursor behind a tag that is selected, so that what is typed next does not replace it. */
  leaveTag(): void;
  /** Brings the text to what it is in the document now; the selection stays where its words are. Nothing happens while steps are waiting: they are handed over first. */
  replace(text: TextJson): void;
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

const { strong, em, underline, superscript, subscript } = textSchema.marks;
const { list_item, hard_break, indented } = textSchema.nodes;

const OWN_HISTORY: Record<"undo" | "redo", Command> = { undo, redo };

const insertBreak: Command = (state, dispatch) => {
  dispatch?.(state.tr.replaceSelectionWith(hard_break!.create()).scrollIntoView());
  return true;
};

/** Whether a mark is on for the whole selection or for what is typed next. */
export function hasMark(state: EditorState, name: string): boolean {
  const type = textSchema.marks[name]!;
  const { from, to, empty, $from } = state.selection;
  return empty
    ? type.isInSet(state.storedMarks ?? $from.marks()) !== undefined
    : state.doc.rangeHasMark(from, to, type);
}

/** Sets or takes away the link of the selection. */
export function setLink(to: Json | null): Command {
  return (state, dispatch) => {
    const { from, to: end, empty } = state.selection;
    if (empty) return false;
    const tr = state.tr.removeMark(from, end, textSchema.marks.link!);
    if (to) tr.addMark(from, end, textSchema.marks.link!.create({ to }));
    dispatch?.(tr);
    return true;
  };
}

export const commands = {
  strong: toggleMark(strong!),
  em: toggleMark(em!),
  underline: toggleMark(underline!),
  bullets: toggleList("bullets"),
  numbers: toggleList("numbers"),
  superscript: toggleMark(superscript!),
  subscript: toggleMark(subscript!),
  indent: wrapIn(indented!),
  outdent: lift,
};

/** Whether the selection is in something that is set in. */
export const isIndented = ({ selection: { $from } }: EditorState): boolean =>
  Array.from({ length: $from.depth }, (_, i) => $from.node(i + 1)).some(
    ({ type }) => type === indented,
  );

/** Selects all words, from the first to the last: what is done to a selection can be done to it. */
const selectWords: Command = ({ doc, tr }, dispatch) => {
  dispatch?.(
    tr.setSelection(TextSelection.between(Selection.atStart(doc).$from, Selection.atEnd(doc).$to)),
  );
  return true;
};

/** Everything the format bar shows of a state, as one text: while it stays the same, the bar does too. */
export function formatOf(state: EditorState): string {
  const { selection } = state;
  const marks = [strong, em, underline, superscript].map((type) => hasMark(state, type!.name));
  const list = listOf(state);
  const colours = [colourAt(state, "colour"), colourAt(state, "ground")];
  const link = linkAt(state)?.attrs.to ?? null;
  return JSON.stringify([
    marks,
    list,
    isIndented(state),
    colours,
    link,
    selection.empty,
    seenAt(state),
  ]);
}

/** The value of a colour mark in the selection, or null. */
export function colourAt(state: EditorState, name: "colour" | "ground"): string | null {
  const { from, to, $from, empty } = state.selection;
  const type = textSchema.marks[name]!;
  if (empty) return (type.isInSet(state.storedMarks ?? $from.marks())?.attrs.to as string) ?? null;
  let found: string | null = null;
  state.doc.nodesBetween(from, to, (node) => {
    found ??= (type.isInSet(node.marks)?.attrs.to as string) ?? null;
  });
  return found;
}

/** Gives the selection a colour of the words or of their ground, or takes it away. */
export function setColour(name: "colour" | "ground", to: string | null): Command {
  return (state, dispatch) => {
    const { from, to: end, empty } = state.selection;
    if (empty) return false;
    const type = textSchema.marks[name]!;
    const tr = state.tr.removeMark(from, end, type);
    if (to) tr.addMark(from, end, type.create({ to }));
    dispatch?.(tr);
    return true;
  };
}

export function createTextEditor(
  place: { mount: HTMLElement } | HTMLElement,
  options: TextEditorOptions,
): TextEditor {
  const { kind } = options;
  const keys: Record<string, Command> = {
    "Mod-m": () => {
      options.onAskTag?.(null);
      return true;
    },
    // biome-ignore lint/correctness/noComponentHookFactories: this is a key, not a component
    Escape: () => {
      options.onEscape?.();
      return true;
    },
  };
  const { onAskBar, onHistory } = options;
  if (onAskBar) {
    keys["Alt-F10"] = () => {
      onAskBar();
      return true;
    };
  }
  for (const [key, what] of [
    ["Mod-z", "undo"],
    ["Mod-y", "redo"],
    ["Shift-Mod-z", "redo"],
  ] as const) {
    keys[key] = onHistory
      ? () => {
          onHistory(what);
          return true;
        }
      : OWN_HISTORY[what];
  }
  if (kind !== "line") {
    keys["Mod-b"] = commands.strong;
    keys["Mod-i"] = commands.em;
    keys["Mod-u"] = commands.underline;
    keys["Mod-."] = commands.superscript;
    keys["Mod-,"] = commands.subscript;
    keys["Shift-Enter"] = insertBreak;
    keys["Mod-a"] = selectWords;
    const { onAskLink } = options;
    if (onAskLink) {
      keys["Mod-k"] = () => {
        onAskLink();
        return true;
      };
    }
  }
  if (kind === "doc") {
    keys.Enter = splitListItem(list_item!);
    keys.Tab = options.onTab ? () => options.onTab!(false) : sinkListItem(list_item!);
    keys["Shift-Tab"] = options.onTab ? () => options.onTab!(true) : liftListItem(list_item!);
    keys["Mod-]"] = commands.indent;
    keys["Mod-["] = commands.outdent;
  } else {
    keys.Enter = () => {
      options.onEnter?.();
      return true;
    };
  }

  const stateOf = (text: TextJson) =>
    EditorState.create({
      doc: parseText(text, kind),
      plugins: [
        ...(onHistory ? [] : [history()]),
        ...(kind === "doc" ? [listRules()] : []),
        keymap(keys),
        ...(kind === "doc" ? [keymap(baseKeymap)] : [lineKeymap]),
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
    replace(text) {
      if (waiting.length > 0 || text === known) return;
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

/** In a line there is nothing to split or join: only what deletes and selects. */
const lineKeymap = keymap(
  Object.fromEntries(
    Object.entries(baseKeymap).filter(([key]) => key !== "Enter" && key !== "Mod-Enter"),
  ),
);

/** The link under the selection, or null. */
export function linkAt(state: EditorState): Mark | null {
  const { from, to, $from, empty } = state.selection;
  const type = textSchema.marks.link!;
  if (empty) return type.isInSet($from.marks()) ?? null;
  let found: Mark | null = null;
  state.doc.nodesBetween(from, to, (node) => {
    found ??= type.isInSet(node.marks) ?? null;
  });
  return found;
}
