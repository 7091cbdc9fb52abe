/** Words in a text that only some readers see: finding them, and saying who does. */
import { type Command, type EditorState, TextSelection } from "prosemirror-state";
import { sameJson } from "#core/json.ts";
import { type Seen, textSchema } from "#core/text/index.ts";

interface Run {
  readonly from: number;
  readonly to: number;
  readonly seen: Seen;
}

/** Neighbouring words under the same mark, in the paragraph of the selection. */
function runsAt(state: EditorState): Run[] {
  const { $from } = state.selection;
  const runs: Run[] = [];
  $from.parent.forEach((node, offset) => {
    const mark = textSchema.marks.who!.isInSet(node.marks);
    if (!mark) return;
    const from = $from.start() + offset;
    const to = from + node.nodeSize;
    const seen = mark.attrs as Seen;
    const last = runs.at(-1);
    if (last?.to === from && sameJson(last.seen, seen)) runs.splice(-1, 1, { ...last, to });
    else runs.push({ from, to, seen });
  });
  return runs;
}

/** The words under one condition that the selection lies within, as far as they reach. */
function runAround(state: EditorState): Run | null {
  const { from, to } = state.selection;
  return runsAt(state).find((run) => run.from <= from && to <= run.to) ?? null;
}
export const seenAt = (state: EditorState): Seen | null => runAround(state)?.seen ?? null;

/** Says who sees the words that are selected, or those under one condition around the cursor; null for everybody. */
export function setSeen(seen: Seen | null): Command {
  return (state, dispatch) => {
    const around = runAround(state);
    const { from, to } = around ?? state.selection;
    if (from === to) return false;
    const type = textSchema.marks.who!;
    const tr = state.tr.removeMark(from, to, type);
    if (seen) tr.addMark(from, to, type.create({ ...seen }));
    dispatch?.(tr);
    return true;
  };
}

/** What stands in the place of words that are still to be written. */
const OTHER_WORDS = "other words";

/** Puts words for everybody else behind those for some, and selects them. */
export function addOtherWords(newId: () => string): Command {
  return (state, dispatch) => {
    const around = runAround(state);
    if (!around) return false;
    const type = textSchema.marks.who!;
    const chain = around.seen.chain ?? newId();
    const { from, to } = around;
    const others = type.create({ seenBy: null, chain });
    const tr = state.tr
      .removeMark(from, to, type)
      .addMark(from, to, type.create({ ...around.seen, chain }))
      .insert(to, textSchema.text(OTHER_WORDS, [others]));
    tr.setSelection(TextSelection.create(tr.doc, to, to + OTHER_WORDS.length));
    dispatch?.(tr);
    return true;
  };
}
