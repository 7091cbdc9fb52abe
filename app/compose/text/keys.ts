/** What the keys do while one writes. */
import { baseKeymap } from "prosemirror-commands";
import { redo, undo } from "prosemirror-history";
import type { Node as ProseNode } from "prosemirror-model";
import { liftListItem, sinkListItem, splitListItem } from "prosemirror-schema-list";
import { type Command, Selection, TextSelection } from "prosemirror-state";
import { type Tag, type TextKind, textSchema } from "#core/text/index.ts";
import { commands } from "./formatting.ts";

const { list_item, hard_break } = textSchema.nodes;

/** What keys lead to beyond the text. */
export interface KeyOptions {
  readonly kind: TextKind;
  /** Called for undo and redo where they are the document's; without it the field has its own. */
  readonly onHistory?: (what: "undo" | "redo") => void;
  /** Called when the person asks for the merge tags, or clicks on one to change it. */
  readonly onAskTag?: (tag: Tag | null) => void;
  /** Called when the person asks for the link of the selection. */
  readonly onAskLink?: () => void;
  /** Called when the person wants to go to the bar (Alt+F10, as in other editors). */
  readonly onAskBar?: () => void;
  readonly onEscape?: () => void;
  readonly onEnter?: () => void;
  /** In a cell of a table: on to the next, or back. Gives whether there was one. */
  readonly onTab?: (back: boolean) => boolean;
}

const OWN_HISTORY: Record<"undo" | "redo", Command> = { undo, redo };

const insertBreak: Command = (state, dispatch) => {
  dispatch?.(state.tr.replaceSelectionWith(hard_break!.create()).scrollIntoView());
  return true;
};

/** All words, from the first to the last: what is done to a selection can be done to it. */
export const wholeOf = (doc: ProseNode): Selection =>
  TextSelection.between(Selection.atStart(doc).$from, Selection.atEnd(doc).$to);

const selectWords: Command = ({ doc, tr }, dispatch) => {
  dispatch?.(tr.setSelection(wholeOf(doc)));
  return true;
};

/**
 * To an end of the line on screen. Moved by the browser alone the selection is heard of a moment later: what is typed
 * at once, or set by the editor meanwhile, would be counted from where it was.
 */
const toLineEnd =
  (way: "backward" | "forward", how: "move" | "extend"): Command =>
  ({ tr }, dispatch, view) => {
    const selection = view?.dom.ownerDocument.getSelection();
    const { anchorNode, focusNode } = selection ?? {};
    if (!view || !selection || !view.dom.contains(anchorNode!) || !view.dom.contains(focusNode!)) {
      return false;
    }
    selection.modify(how, way, "lineboundary");
    const at = (node: Node | null, offset: number) =>
      tr.doc.resolve(view.posAtDOM(node!, offset, way === "backward" ? -1 : 1));
    dispatch?.(
      tr
        .setSelection(
          TextSelection.between(
            at(selection.anchorNode, selection.anchorOffset),
            at(selection.focusNode, selection.focusOffset),
          ),
        )
        .scrollIntoView(),
    );
    return true;
  };

/** These keys scroll on Apple's systems, and leave the cursor where it is. */
const LINE_ENDS: Record<string, Command> = /Mac|iP(hone|[ao]d)/.test(globalThis.navigator?.platform)
  ? {}
  : {
      Home: toLineEnd("backward", "move"),
      End: toLineEnd("forward", "move"),
      "Shift-Home": toLineEnd("backward", "extend"),
      "Shift-End": toLineEnd("forward", "extend"),
    };

/** In a line there is nothing to split or join: only what deletes and selects. */
const LINE_KEYS = Object.fromEntries(
  Object.entries(baseKeymap).filter(([key]) => key !== "Enter" && key !== "Mod-Enter"),
);

/** The keys of a kind of text, those that come first before the others. */
export function keysOf(options: KeyOptions): readonly Record<string, Command>[] {
  const { kind } = options;
  const keys: Record<string, Command> = {
    ...LINE_ENDS,
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
  return [keys, kind === "doc" ? baseKeymap : LINE_KEYS];
}
