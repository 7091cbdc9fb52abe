import { EditorState, TextSelection } from "prosemirror-state";
import { expect, it } from "vitest";
import { doc, paragraph, type TextJson, textSchema } from "#core/text/index.ts";
import { pasteInto } from "./paste.ts";

/** A text with the cursor before a word. */
function before(word: string, ...paragraphs: string[]): EditorState {
  const text = textSchema.nodeFromJSON(doc(...paragraphs.map((one) => paragraph(one))));
  let at = 0;
  text.descendants((node, pos) => {
    const found = node.text?.indexOf(word) ?? -1;
    if (found >= 0) at = pos + found;
  });
  const state = EditorState.create({ doc: text });
  return state.apply(state.tr.setSelection(TextSelection.create(state.doc, at)));
}
const clipboard = (html: string, plain = "") => ({
  files: [] as unknown as FileList,
  getData: (type: string) => (type === "text/html" ? html : plain),
});
const TABLE =
  "<table><tr><th>Kind</th><th>Sow</th></tr><tr><td>Pea</td><td>March</td></tr></table>";
const words = (json: TextJson | null | undefined) =>
  json
    ? textSchema.nodeFromJSON(json).textBetween(0, textSchema.nodeFromJSON(json).content.size, "|")
    : null;

it("a table pasted in the middle of a text parts it there", () => {
  const state = before("after", "First", "before after", "Last");
  const { change, beside } = pasteInto(state, "doc", clipboard(TABLE), true);
  expect(beside.tables).toHaveLength(1);
  expect(words(change!.doc.toJSON())).toBe("First|before ");
  expect(words(beside.rest)).toBe("after|Last");
});

it("at the end of a text it stands after it, and nothing is parted", () => {
  const state = before("First", "First");
  const end = state.apply(state.tr.setSelection(TextSelection.atEnd(state.doc)));
  const { change, beside } = pasteInto(end, "doc", clipboard(TABLE), true);
  expect([change, beside.rest]).toEqual([null, null]);
});

it("words around a pasted table stay on their side of it", () => {
  const state = before("after", "before after");
  const html = `<p>Read this:</p>${TABLE}`;
  const { change, beside } = pasteInto(state, "doc", clipboard(html), true);
  expect(words(change!.doc.toJSON())).toContain("Read this:");
  expect(words(beside.rest)).toContain("after");
});

it("a text that may not be parted is left whole", () => {
  const { change, beside } = pasteInto(before("b", "a b"), "doc", clipboard(TABLE));
  expect([change, beside.rest, beside.tables.length]).toEqual([null, undefined, 1]);
});
