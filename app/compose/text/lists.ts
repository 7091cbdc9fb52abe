/** Lists as hands expect them: they begin from what is typed, change their kind, join, and end. */
import { InputRule, inputRules, wrappingInputRule } from "prosemirror-inputrules";
import type { NodeType, ResolvedPos } from "prosemirror-model";
import { liftListItem, wrapInList } from "prosemirror-schema-list";
import type { Command, EditorState, Transaction } from "prosemirror-state";
import { canJoin } from "prosemirror-transform";
import { textSchema } from "#core/text/index.ts";

const { bullet_list, ordered_list, list_item } = textSchema.nodes as Record<string, NodeType>;
const LISTS = [bullet_list!, ordered_list!];

export type ListKind = "bullets" | "numbers";
const typeOf = (kind: ListKind) => (kind === "bullets" ? bullet_list! : ordered_list!);

/** How deep the innermost list around a position stands; null outside of lists. */
function depthOfList($pos: ResolvedPos): number | null {
  for (let depth = $pos.depth; depth > 0; depth--) {
    if (LISTS.includes($pos.node(depth).type)) return depth;
  }
  return null;
}

/** The kind of list the selection is in, the innermost; null where it is in none. */
export function listOf(state: EditorState): ListKind | null {
  const { $from } = state.selection;
  const depth = depthOfList($from);
  if (depth === null) return null;
  return $from.node(depth).type === bullet_list ? "bullets" : "numbers";
}

/** Joins every two lists of one kind that stand one after another in a range and under one parent. */
function joinLists(tr: Transaction, from: number, to: number): Transaction {
  const seams: number[] = [];
  tr.doc.nodesBetween(Math.max(0, from - 1), Math.min(tr.doc.content.size, to + 1), (node, pos) => {
    if (LISTS.includes(node.type)) seams.push(pos, pos + node.nodeSize);
  });
  for (const seam of [...new Set(seams)].sort((a, b) => b - a)) {
    const $seam = tr.doc.resolve(seam);
    const same = $seam.nodeBefore && $seam.nodeBefore.type === $seam.nodeAfter?.type;
    if (same && LISTS.includes($seam.nodeBefore!.type) && canJoin(tr.doc, seam)) tr.join(seam);
  }
  return tr;
}

/** Every list the selection touches becomes of this kind. */
function convert(state: EditorState, type: NodeType): Transaction {
  const { from, to, $from } = state.selection;
  const tr = state.tr;
  const depth = depthOfList($from);
  const start = depth === null ? from : $from.before(depth);
  state.doc.nodesBetween(start, to, (node, pos) => {
    if (LISTS.includes(node.type) && node.type !== type && pos >= start) {
      tr.setNodeMarkup(pos, type);
    }
  });
  return joinLists(tr, from, to);
}

/** Makes a list of the selection, turns one into the other kind, or ends one of the same kind. */
export const toggleList =
  (kind: ListKind): Command =>
  (state, dispatch, view) => {
    const type = typeOf(kind);
    const { $from, $to } = state.selection;
    const now = listOf(state);
    if (now === kind) return liftListItem(list_item!)(state, dispatch, view);
    if (now !== null) {
      dispatch?.(convert(state, type).scrollIntoView());
      return true;
    }
    // Where the selection begins outside of a list and ends in one, the lists in it are taken along.
    if (depthOfList($to) !== null && !$from.sameParent($to)) {
      dispatch?.(convert(state, type).scrollIntoView());
      return true;
    }
    return wrapInList(type)(
      state,
      dispatch && ((tr) => dispatch(joinLists(tr, tr.selection.from, tr.selection.to))),
    );
  };

/** A list begins from “- ”, “* ” or “1. ” at the beginning of a paragraph. */
export const listRules = () =>
  inputRules({
    rules: [
      wrappingInputRule(/^\s*[-*•]\s$/, bullet_list!),
      // The number that is typed is where a list begins; ours begin at one.
      new InputRule(/^\s*1[.)]\s$/, (state, _match, start, end) => {
        const tr = state.tr.delete(start, end);
        const $start = tr.doc.resolve(start);
        const range = $start.blockRange();
        if (!range || depthOfList($start) !== null) return null;
        tr.wrap(range, [{ type: ordered_list! }, { type: list_item! }]);
        return joinLists(tr, start, start + 2);
      }),
    ],
  });
