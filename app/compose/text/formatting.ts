/** What marks a text has, and commands that give or take them. */
import { lift, toggleMark, wrapIn } from "prosemirror-commands";
import type { Mark } from "prosemirror-model";
import type { Command, EditorState } from "prosemirror-state";
import { type Link, textSchema } from "#core/text/index.ts";
import { listOf, toggleList } from "./lists.ts";
import { seenAt } from "./seen-words.ts";

const { strong, em, underline, strike, superscript, subscript } = textSchema.marks;
const { indented } = textSchema.nodes;

/** Whether a mark is on for the whole selection or for what is typed next. */
export function hasMark(state: EditorState, name: string): boolean {
  const type = textSchema.marks[name]!;
  const { from, to, empty, $from } = state.selection;
  return empty
    ? type.isInSet(state.storedMarks ?? $from.marks()) !== undefined
    : state.doc.rangeHasMark(from, to, type);
}

/** Sets or takes away the link of the selection. */
export function setLink(to: Link | null): Command {
  return (state, dispatch) => {
    const { from, to: end, empty } = state.selection;
    if (empty) return false;
    const tr = state.tr.removeMark(from, end, textSchema.marks.link!);
    if (to) tr.addMark(from, end, textSchema.marks.link!.create({ to }));
    dispatch?.(tr);
    return true;
  };
}

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

export const commands = {
  strong: toggleMark(strong!),
  em: toggleMark(em!),
  underline: toggleMark(underline!),
  strike: toggleMark(strike!),
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

/** Everything the format bar shows of a state, as one text: while it stays the same, the bar does too. */
export function formatOf(state: EditorState): string {
  const { selection } = state;
  const marks = [strong, em, underline, strike, superscript].map((type) =>
    hasMark(state, type!.name),
  );
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
