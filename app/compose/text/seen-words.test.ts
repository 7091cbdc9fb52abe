import { EditorState, TextSelection } from "prosemirror-state";
import { expect, it } from "vitest";
import type { Rule } from "#core/rules/index.ts";
import { paragraph, parseText, type Seen, seenRuns, type TextJson } from "#core/text/index.ts";
import { addOtherWords, seenAt, setSeen } from "./seen-words.ts";

const list = (id: string): Rule => ({ type: "list", list: id, is: true });
const seen = (id: string): Seen => ({ seenBy: list(id), chain: null });
/** A text of one paragraph with a selection; positions count from 1. */
const state = (words: string, from: number, to = from) => {
  const doc = parseText({ type: "doc", content: [paragraph(words)] }, "doc");
  return select(EditorState.create({ doc }), from, to);
};
const select = (state: EditorState, from: number, to = from) =>
  state.apply(state.tr.setSelection(TextSelection.create(state.doc, from, to)));
const run = (state: EditorState, command: ReturnType<typeof setSeen>) => {
  let next = state;
  command(state, (tr) => {
    next = state.apply(tr);
  });
  return next;
};
/** Its words in runs, each with the list that sees it. */
const runs = (state: EditorState) =>
  seenRuns((state.doc.toJSON() as TextJson).content![0]!.content ?? []).map(({ seen, parts }) => [
    parts.map(({ text }) => text).join(""),
    seen && ((seen.seenBy as { list?: string } | null)?.list ?? "rest"),
  ]);

it("says who sees the selected words, and everybody again", () => {
  const marked = run(state("Good day all", 1, 9), setSeen(seen("a")));
  expect(runs(marked)).toEqual([
    ["Good day", "a"],
    [" all", null],
  ]);
  expect(seenAt(marked)).toEqual(seen("a"));
  expect(seenAt(select(marked, 11))).toBeNull();
  // With the cursor in it, all of the run is meant.
  expect(runs(run(select(marked, 4), setSeen(seen("b"))))[0]).toEqual(["Good day", "b"]);
  expect(runs(run(select(marked, 4), setSeen(null)))).toEqual([["Good day all", null]]);
});

it("takes a selection that reaches beyond such words as it is", () => {
  const marked = run(state("Good day all", 1, 5), setSeen(seen("a")));
  expect(runs(run(select(marked, 3, 9), setSeen(seen("b"))))).toEqual([
    ["Go", "a"],
    ["od day", "b"],
    [" all", null],
  ]);
});

it("does nothing without words, and keeps runs that merely touch apart", () => {
  const start = state("Good day", 3);
  expect(setSeen(seen("a"))(start)).toBe(false);
  expect(addOtherWords(() => "c")(start)).toBe(false);
  const one = run(state("Good day", 1, 5), setSeen(seen("a")));
  const two = run(select(one, 5, 9), setSeen(seen("b")));
  expect(seenAt(select(two, 6, 8))).toEqual(seen("b"));
  expect(runs(two)).toEqual([
    ["Good", "a"],
    [" day", "b"],
  ]);
});

it("puts other words for the rest behind, selected, in one chain", () => {
  const marked = run(state("Good day all", 1, 9), setSeen(seen("a")));
  const both = run(
    select(marked, 3),
    addOtherWords(() => "chain1"),
  );
  expect(runs(both)).toEqual([
    ["Good day", "a"],
    ["other words", "rest"],
    [" all", null],
  ]);
  const { from, to } = both.selection;
  expect(both.doc.textBetween(from, to)).toBe("other words");
  expect(seenAt(both)).toEqual({ seenBy: null, chain: "chain1" });
  expect(seenAt(select(both, 3))).toEqual({ seenBy: list("a"), chain: "chain1" });
});
