import { describe, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../../blocks/index.ts";
import { canonical } from "../../json.ts";
import { doc } from "../../text/index.ts";
import { apply, type Edit, find, invert, moveOver, type SimpleEdit } from "../index.ts";
import type { DocNode, EmailDocument } from "../model.ts";

const block = (id: string, words = "one two three") =>
  createBlock("text", () => id, { words: doc(words) });
const start = createDocument([
  createBand(() => "band", [createColumn(() => "left", [block("a"), block("b"), block("c")])]),
  createBand(() => "other", [createColumn(() => "right", [block("d")])]),
]);
const write = (text: string, at = 1, to = at, node = "a"): SimpleEdit & { type: "text" } => ({
  type: "text",
  node,
  path: ["words"],
  steps: [
    {
      stepType: "replace",
      from: at,
      to,
      ...(text && { slice: { content: [{ type: "text", text }] } }),
    } as never,
  ],
});
const setWords = (words: string, node = "a"): SimpleEdit => ({
  type: "set",
  node,
  path: ["words"],
  value: doc(words) as never,
});
const set = (path: string[], value: unknown, node = "a"): SimpleEdit => ({
  type: "set",
  node,
  path,
  value: value as never,
});
const insert = (node: DocNode, after: string | null, parent = "left"): SimpleEdit => ({
  type: "insert",
  parent,
  after,
  node,
});
const group = (...edits: SimpleEdit[]): Edit => ({ type: "group", edits });
const propsOf = (document: EmailDocument, id = "a") => find(document, id)!.node.props;
const words = (document: EmailDocument, id = "a") =>
  (JSON.stringify(propsOf(document, id).words).match(/"text":"([^"]*)"/g) ?? [])
    .map((one) => one.slice(8, -1))
    .join("");
const order = (document: EmailDocument, id = "left") =>
  find(document, id)!.node.children.map((child) => child.id);

/** Edits of one's own over others that were stored first. */
const merge = (mine: Edit[], ...theirs: Edit[]) =>
  moveOver(
    start,
    mine.map((edit) => ({ edit, yields: false })),
    theirs.map((edit) => ({ edit, takesBack: [] })),
  );
/** Taking an edit back after others did something. */
const undo = (edit: Edit, ...later: Edit[]) =>
  moveOver(
    apply(start, edit),
    [{ edit: invert(start, edit), yields: true }],
    later.map((one) => ({ edit: one, takesBack: [] })),
  );

describe("merged with what others stored first", () => {
  it("words set anew and written in clash with what others wrote there", () => {
    for (const mine of [
      [setWords("mine"), write(" too", 5)],
      [group(setWords("mine"), write(" too", 5))],
      [group(write("Oh "), setWords("mine"))],
    ] as Edit[][]) {
      const { edits, unmerged, doc: after } = merge(mine, write(" four", 14));
      expect(edits.every((edit) => edit === null)).toBe(true);
      expect(words(after)).toBe("one two three four");
      expect(unmerged).toMatchObject([{ node: "a", path: ["words"], lost: null }]);
      expect(JSON.stringify(unmerged[0]!.mine)).toContain("mine");
      expect(JSON.stringify(unmerged[0]!.theirs)).toContain("four");
    }
    // What is set later stands where nobody wrote in between.
    expect(words(merge([setWords("mine")], setWords("theirs")).doc)).toBe("mine");
  });
  it("a text of one's own making is one's own", () => {
    const made = insert(block("new", ""), "a");
    const mine = [made, write("in it", 1, 1, "new"), setWords("again"), write("!", 6)];
    const { doc: after, unmerged } = merge(mine, set(["box", "corner"], 4));
    expect([words(after, "new"), words(after), unmerged]).toEqual(["in it", "again!", []]);
  });
  it("a block that somebody deletes while one writes in it is offered back with its place", () => {
    const { edits, unmerged } = merge([write("Oh "), write("dear ", 4)], {
      type: "remove",
      node: "a",
    });
    expect(edits).toEqual([null, null]);
    expect(unmerged).toMatchObject([
      { node: "a", theirs: null, lost: { parent: "left", after: null, node: { id: "a" } } },
    ]);
    expect(JSON.stringify(unmerged[0]!.lost!.node)).toContain("Oh dear one");
    // The outermost that is gone is what can be put back, once.
    const band = merge([write("Oh "), write("x", 1, 1, "b"), insert(block("n"), null)], {
      type: "remove",
      node: "band",
    });
    expect(band.unmerged).toMatchObject([{ lost: { node: { id: "band" }, parent: "email" } }]);
    expect(JSON.stringify(band.unmerged[0]!.lost!.node)).toContain('"n"');
  });
  it("a block that somebody moves keeps what one writes in it", () => {
    const moved: Edit = { type: "move", node: "a", parent: "right", after: "d" };
    const { doc: after, unmerged } = merge([write("Oh ")], moved);
    expect([words(after), order(after, "right"), unmerged]).toEqual([
      "Oh one two three",
      ["d", "a"],
      [],
    ]);
  });
  it("a group moves part by part, each text by its own steps", () => {
    const mine = group(write("X", 1), write("Y", 15), write("Z", 2, 2, "b"));
    const { doc: after } = merge([mine], write("__", 5), write("--", 1, 1, "b"));
    expect([words(after), words(after, "b")]).toEqual(["Xone __two threeY", "--oZne two three"]);
  });
  it("a place beside what is gone is the nearest that is left", () => {
    const gone: Edit = group({ type: "remove", node: "b" }, { type: "remove", node: "c" });
    expect(order(merge([insert(block("n"), "c")], gone).doc)).toEqual(["a", "n"]);
    const move: Edit = { type: "move", node: "d", parent: "left", after: "b" };
    expect(order(merge([move], { type: "remove", node: "b" }).doc)).toEqual(["a", "d", "c"]);
    // Nothing is left to do: gone, or gone with its place.
    expect(merge([move], { type: "remove", node: "other" }).edits).toEqual([null]);
    expect(merge([{ type: "remove", node: "a" }], { type: "remove", node: "band" }).edits).toEqual([
      null,
    ]);
  });
  it("two translations of one text, made at the same time, both stand", () => {
    const translate = (lang: string, words: string): SimpleEdit => ({
      type: "set",
      node: "a",
      path: ["tr", lang, "words"],
      value: { of: "x", value: words },
      make: true,
    });
    const { doc: after } = merge([translate("fr-CA", "bonjour")], translate("de", "hallo"));
    expect(propsOf(after).tr).toEqual({
      de: { words: { of: "x", value: "hallo" } },
      "fr-CA": { words: { of: "x", value: "bonjour" } },
    });
    // And each is taken back alone, to the byte.
    const one = apply(start, translate("de", "hallo"));
    const two = invert(one, translate("fr", "bonjour"));
    expect(canonical(apply(apply(one, translate("fr", "bonjour")), two))).toBe(canonical(one));
    expect(canonical(apply(one, invert(start, translate("de", "hallo"))))).toBe(canonical(start));
    const kept = undo(translate("de", "hallo"), translate("fr", "bonjour"));
    expect(propsOf(kept.doc).tr).toEqual({ fr: { words: { of: "x", value: "bonjour" } } });
  });
  it("two values set and taken back again are both what others have made of them", () => {
    const both = group(set(["type", "size"], 20), set(["box", "corner"], 6));
    const { doc: after } = moveOver(
      start,
      [
        { edit: both, yields: false },
        { edit: invert(start, both), yields: true, of: [0] },
      ],
      [set(["type", "size"], 33), set(["box", "corner"], 4)].map((edit) => ({
        edit,
        takesBack: [],
      })),
    );
    expect(propsOf(after)).toMatchObject({ type: { size: 33 }, box: { corner: 4 } });
  });
  it("going back to an earlier state and taking that back again keeps what others did", () => {
    const restore: Edit = { type: "restore", root: { ...start.root, children: [] } };
    const { doc: after } = moveOver(
      start,
      [
        { edit: restore, yields: false },
        { edit: invert(start, restore), yields: true, of: [0] },
      ],
      [{ edit: write("theirs "), takesBack: [] }],
    );
    expect(words(after)).toBe("theirs one two three");
  });
});

describe("taken back after others did something", () => {
  it("blocks come back in their order", () => {
    const pasted = group(insert(block("x"), "a"), insert(block("y"), "x"));
    const undone = invert(start, pasted);
    const redone = invert(apply(start, pasted), undone);
    const again = moveOver(start, [{ edit: redone, yields: true }], []);
    expect(order(again.doc)).toEqual(["a", "x", "y", "b", "c"]);
    const beside = moveOver(
      start,
      [{ edit: redone, yields: true }],
      [{ edit: { type: "remove", node: "a" }, takesBack: [] }],
    );
    expect(order(beside.doc)).toEqual(["x", "y", "b", "c"]);
  });
  it("never eats letters of somebody else", () => {
    expect(words(undo(write("mine "), setWords("theirs")).doc)).toBe("theirs");
    const other = apply(start, setWords("earlier"));
    expect(words(undo(write("mine "), { type: "restore", root: other.root }).doc)).toBe("earlier");
    const inside = undo(write("mine "), write("THEIRS", 3));
    expect(words(inside.doc)).toBe("THEIRSone two three");
    expect(words(undo(setWords("mine"), write(" and theirs", 5)).doc)).toBe("mine and theirs");
    expect(undo(setWords("mine"), write(" and theirs", 5)).edits).toEqual([null]);
  });
  it("settings changed since stay, the others of the same go back", () => {
    const padding = (top: number) => ({ top, right: 1, bottom: 1, left: 1 });
    const mine = set(["box", "padding"], padding(50));
    const { doc: after } = undo(mine, set(["box", "padding", "top"], 7));
    const before = (propsOf(start).box as { padding: object }).padding;
    expect((propsOf(after).box as { padding: object }).padding).toEqual({ ...before, top: 7 });
    expect(undo(set(["show"], "wide"), set(["show"], "narrow")).edits).toEqual([null]);
    // A value that names its kind is one value, never half of each.
    const link = (kind: string) => ({ kind, address: "x" });
    expect(undo(set(["to"], link("web")), set(["to"], link("mail"))).edits).toEqual([null]);
  });
  it("a move goes back beside what is left, and stays where somebody else has moved it", () => {
    const move: Edit = { type: "move", node: "c", parent: "right", after: null };
    expect(order(undo(move, { type: "remove", node: "b" }).doc)).toEqual(["a", "c"]);
    const elsewhere: Edit = { type: "move", node: "c", parent: "left", after: null };
    expect(order(undo(move, elsewhere).doc)).toEqual(["c", "a", "b"]);
    expect(undo(move, { type: "remove", node: "band" }).edits).toEqual([null]);
  });
  it("words come back to the letter where they were spelled otherwise than steps spell them", () => {
    const split = (text: string[]) => ({
      type: "doc",
      content: [{ type: "paragraph", content: text.map((one) => ({ type: "text", text: one })) }],
    });
    const odd = apply(start, set(["words"], split(["on", "e two"])));
    for (const edit of [
      write("x", 2),
      write("", 1, 3),
      {
        ...write("x"),
        steps: [{ stepType: "addMark", mark: { type: "strong" }, from: 1, to: 5 } as never],
      },
    ]) {
      expect(canonical(apply(apply(odd, edit), invert(odd, edit)))).toBe(canonical(odd));
    }
    const marked = apply(start, {
      ...write("x"),
      steps: [{ stepType: "addMark", mark: { type: "strong" }, from: 2, to: 4 } as never],
    });
    const over: Edit = {
      ...write("x"),
      steps: [{ stepType: "addMark", mark: { type: "strong" }, from: 1, to: 8 } as never],
    };
    expect(canonical(apply(apply(marked, over), invert(marked, over)))).toBe(canonical(marked));
  });
});

it("an edit that does not fit leaves what came before it in a batch, and its own ground, as they were", () => {
  const full = apply(
    start,
    group(
      ...["x", "y", "z"].map(
        (id): SimpleEdit =>
          insert(
            createColumn(() => id),
            "left",
            "band",
          ),
      ),
    ),
  );
  const move: Edit = { type: "move", node: "right", parent: "band", after: null };
  const spelling = canonical(full);
  expect(() => apply(full, move)).toThrow("at most 4 columns");
  expect(canonical(full)).toBe(spelling);
  // Within the same band there is room for it.
  expect(
    order(apply(full, { type: "move", node: "x", parent: "band", after: "z" }), "band"),
  ).toEqual(["left", "z", "x", "y"]);
  const removed = apply(full, group({ type: "remove", node: "a" }, write("x", 1, 1, "b")));
  expect(find(full, "a")).not.toBeNull();
  expect(find(removed, "a")).toBeNull();
});
