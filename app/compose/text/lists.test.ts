import { EditorState, TextSelection } from "prosemirror-state";
import { describe, expect, it } from "vitest";
import { parseText, type TextJson } from "#core/text/index.ts";
import { listOf, toggleList } from "./lists.ts";

const words = (text: string) => ({
  type: "paragraph",
  content: text ? [{ type: "text", text }] : [],
});
const list = (type: "bullet_list" | "ordered_list", ...items: string[]) => ({
  type,
  content: items.map((text) => ({ type: "list_item", content: [words(text)] })),
});

/** A text with a selection from the first of some words to the last of others. */
function stateOf(content: object[], from: string, to = from): EditorState {
  const doc = parseText({ type: "doc", content } as unknown as TextJson, "doc");
  const at = (found: string) => {
    let place = -1;
    doc.descendants((node, pos) => {
      if (node.text === found) place = pos;
    });
    return place;
  };
  return EditorState.create({
    doc,
    selection: TextSelection.create(doc, at(from), at(to) + to.length),
  });
}
const toggled = (state: EditorState, kind: "bullets" | "numbers") => {
  let now = state;
  toggleList(kind)(state, (tr) => {
    now = state.apply(tr);
  });
  return now;
};
/** What the top level holds, with how many items. */
const shape = ({ doc }: EditorState) =>
  doc.content.content.map(({ type, childCount, textContent }) =>
    type.name === "paragraph" ? textContent : `${type.name} ${childCount}`,
  );

describe("toggleList", () => {
  it("makes a list, and joins it with its neighbours of the same kind", () => {
    const state = stateOf([list("bullet_list", "a"), words("b"), list("bullet_list", "c")], "b");
    expect(listOf(state)).toBeNull();
    expect(shape(toggled(state, "bullets"))).toEqual(["bullet_list 3"]);
    expect(shape(toggled(state, "numbers"))).toEqual([
      "bullet_list 1",
      "ordered_list 1",
      "bullet_list 1",
    ]);
  });

  it("turns one kind into the other, and joins it", () => {
    const state = stateOf([list("ordered_list", "a", "b"), list("bullet_list", "c")], "a");
    expect(listOf(state)).toBe("numbers");
    expect(shape(toggled(state, "bullets"))).toEqual(["bullet_list 3"]);
  });

  it("ends a list of the same kind", () => {
    const state = stateOf([list("bullet_list", "a")], "a");
    expect(shape(toggled(state, "bullets"))).toEqual(["a"]);
  });

  it("works on everything that is selected", () => {
    const mixed = [list("bullet_list", "a", "b"), list("ordered_list", "c")];
    expect(shape(toggled(stateOf(mixed, "a", "c"), "numbers"))).toEqual(["ordered_list 3"]);
    const plain = stateOf([words("a"), words("b")], "a", "b");
    expect(shape(toggled(plain, "numbers"))).toEqual(["ordered_list 2"]);
  });
});
