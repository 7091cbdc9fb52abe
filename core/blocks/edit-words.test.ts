import { describe, expect, it } from "vitest";
import type { Edit, SimpleEdit } from "../document/index.ts";
import { ids } from "../testing/rendered.ts";
import { phrase } from "../text/index.ts";
import { wordsOfEdit } from "./edit-words.ts";
import { createBand, createBlock, createColumn, createDocument } from "./index.ts";

const id = ids();
const heading = createBlock("heading", () => "h", { words: phrase("Walks") });
const text = createBlock("text", () => "t");
const button = createBlock("button", () => "b");
const columns = [createColumn(() => "c1", [heading, text]), createColumn(() => "c2", [button])];
const document = createDocument([createBand(() => "band", columns)]);

const set = (node: string, ...path: string[]): SimpleEdit => ({
  type: "set",
  node,
  path,
  value: 1,
});
const move = (node: string): SimpleEdit => ({ type: "move", node, parent: "c2", after: null });
const remove = (node: string): SimpleEdit => ({ type: "remove", node });
const write = (node: string, path = "words"): SimpleEdit => ({
  type: "text",
  node,
  path: [path],
  steps: [],
});
const insert = (type: string): SimpleEdit => ({
  type: "insert",
  parent: "c1",
  after: null,
  node: createBlock(type, id),
});
const all = (...edits: SimpleEdit[]): Edit => ({ type: "group", edits });
const words = (edit: Edit) => wordsOfEdit(document, edit);

describe("what was done, in words", () => {
  it("names what it was done to", () => {
    const said = [
      remove("t"),
      move("b"),
      insert("image"),
      write("t"),
      write("b", "label"),
      set("b", "to"),
      set("t", "box", "padding", "top"),
      set("email", "theme", "corner"),
      remove("nothing"),
    ].map(words);
    expect(said).toMatchInlineSnapshot(`
      [
        "Took out the text",
        "Moved the button",
        "Put in the image",
        "Wrote in the text",
        "Wrote the label of the button",
        "Changed “Link to” of the button",
        "Changed the spacing of the text",
        "Changed the theme",
        "Changed something",
      ]
    `);
  });

  it("counts what several edits did", () => {
    expect(words(all())).toBe("Changed nothing");
    expect(words(all(move("t"), move("h")))).toBe("Moved 2 pieces");
    expect(words(all(insert("text"), insert("image")))).toBe("Put in 2 pieces");
    expect(words(all(remove("t"), remove("h")))).toBe("Took out 2 pieces");
    expect(words(all(write("t"), write("t"), write("h")))).toBe("Changed text in 2 places");
    expect(words(all(insert("card"), move("t"), move("h")))).toBe("Put 2 blocks into a card");
    expect(words(all(insert("card"), move("t")))).toBe("Put 1 block into a card");
    expect(words(all(set("c1", "share"), set("c2", "share")))).toBe(
      "Changed the widths of columns",
    );
  });

  it("names one setting of several blocks, and several settings of one", () => {
    const [same, other] = [
      all(set("t", "show"), set("h", "show")),
      all(set("t", "show"), set("h", "plain")),
    ];
    expect(words(same)).toMatch(/^Changed the widths it shows on of 2 /);
    expect(words(other)).toMatch(/^Changed the style of 2 /);
    expect(words(all(set("t", "show"), set("t", "plain")))).toBe(words(set("t", "show")));
  });

  it("says what one edit did along with others that follow from it", () => {
    expect(words(all(move("t"), set("c1", "share")))).toBe(words(move("t")));
    expect(words(all(insert("text"), set("c1", "share")))).toMatch(/^Put in /);
  });
});
