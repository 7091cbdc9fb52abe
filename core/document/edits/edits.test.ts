import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../../blocks/index.ts";
import { canonical } from "../../json.ts";
import { documentArbitrary, editArbitrary } from "../../testing/arbitrary-documents.ts";
import { doc } from "../../text/index.ts";
import { find } from "../lookup.ts";
import type { EmailDocument } from "../model.ts";
import { apply, clash, type Edit, EditError, invert, rebase, type SimpleEdit } from "./index.ts";

let n = 0;
const id = () => `t${++n}`;
const small = (): EmailDocument => {
  n = 0;
  const text = createBlock("text", id, { words: doc("Hello there") });
  const heading = createBlock("heading", id);
  return createDocument([createBand(id, [createColumn(id, [text, heading])])]);
};
const insertText = (at: number, text: string): Edit & { type: "text" } => ({
  type: "text",
  node: "t1",
  path: ["words"],
  steps: [
    {
      stepType: "replace",
      from: at,
      to: at,
      slice: { content: [{ type: "text", text }] },
    } as never,
  ],
});
const deleteText = (from: number, to: number): Edit => ({
  type: "text",
  node: "t1",
  path: ["words"],
  steps: [{ stepType: "replace", from, to } as never],
});
const wordsIn = (document: EmailDocument) => JSON.stringify(find(document, "t1")!.node.props.words);

describe("any edit", () => {
  it("is taken back by its inverse, byte for byte", () => {
    fc.assert(
      fc.property(
        documentArbitrary.chain((document) =>
          fc.tuple(fc.constant(document), editArbitrary(document)),
        ),
        ([document, edit]) => {
          if (!edit) return;
          const after = apply(document, edit);
          const back = apply(after, invert(document, edit));
          expect(canonical(back)).toBe(canonical(document));
          expect(canonical(apply(back, invert(after, invert(document, edit))))).toBe(
            canonical(after),
          );
        },
      ),
      { numRuns: 300 },
    );
  });

  it("leaves what it does not touch as the same object", () => {
    const before = small();
    const after = apply(before, { type: "set", node: "t2", path: ["level"], value: 2 });
    expect(find(after, "t1")!.node).toBe(find(before, "t1")!.node);
    expect(find(after, "t2")!.node).not.toBe(find(before, "t2")!.node);
  });
});

describe("a group", () => {
  it("is one step forth and back", () => {
    const before = small();
    const edits: SimpleEdit[] = [
      { type: "remove", node: "t2" },
      { type: "set", node: "t1", path: ["size"], value: 20 },
      insertText(1, "Oh. ") as SimpleEdit,
    ];
    const group: Edit = { type: "group", edits };
    const after = apply(before, group);
    expect(canonical(apply(after, invert(before, group)))).toBe(canonical(before));
  });
});

describe("an edit that does not fit", () => {
  const before = small();
  const bad: [string, Edit][] = [
    ["a node that is gone", { type: "remove", node: "nobody" }],
    ["a block in a band", { type: "move", node: "t1", parent: "t4", after: null }],
    ["a sibling that is gone", { type: "move", node: "t1", parent: "t3", after: "nobody" }],
    ["a node into itself", { type: "move", node: "t4", parent: "t3", after: null }],
    ["a way through nothing", { type: "set", node: "t1", path: ["no", "way"], value: 1 }],
    ["steps outside the text", deleteText(50, 60)],
    [
      "an id twice",
      { type: "insert", parent: "t3", after: null, node: createBlock("spacer", () => "t1") },
    ],
  ];
  it("is refused: an earlier state that is none", () => {
    const { root } = before;
    const restore = (change: object): Edit => ({ type: "restore", root: { ...root, ...change } });
    const [band] = root.children;
    for (const edit of [
      restore({ id: "other" }),
      restore({ children: [band, band] }),
      restore({ children: [createBlock("text", () => "loose")] }),
      restore({
        children: [
          createBand(
            id,
            Array.from({ length: 5 }, () => createColumn(id)),
          ),
        ],
      }),
    ]) {
      expect(() => apply(before, edit)).toThrow(EditError);
    }
  });
  it.each(bad)("is refused: %s", (_what, edit) => {
    const spelling = canonical(before);
    expect(() => apply(before, edit)).toThrow(EditError);
    expect(canonical(before)).toBe(spelling);
  });
  it("refuses a fifth column", () => {
    const columns = Array.from({ length: 4 }, () => createColumn(id));
    const document = createDocument([createBand(() => "full", columns)]);
    const edit: Edit = { type: "insert", parent: "full", after: null, node: createColumn(id) };
    expect(() => apply(document, edit)).toThrow("at most 4 columns");
  });
});

describe("two people", () => {
  it("clash only where they write the same text", () => {
    const mine = insertText(1, "A");
    expect(clash(mine, insertText(3, "B"))).toBe(true);
    expect(clash(mine, { type: "remove", node: "t1" })).toBe(true);
    expect(clash(mine, { type: "set", node: "t1", path: ["words"], value: null })).toBe(true);
    expect(clash(mine, { type: "set", node: "t1", path: ["size"], value: 20 })).toBe(false);
    expect(clash(mine, { type: "remove", node: "t2" })).toBe(false);
  });
});

describe("taking back over what came later", () => {
  it("never writes over what others did after going back to an earlier state", () => {
    const before = small();
    const restored: Edit = { type: "restore", root: { ...before.root, children: [] } };
    const back = invert(before, restored);
    const set: Edit = { type: "set", node: "email", path: ["width"], value: 640 };
    expect(() => rebase(apply(before, restored), back, [{ edit: set, takesBack: null }])).toThrow(
      "changed since",
    );
    expect(rebase(apply(before, restored), back, [])).toEqual(back);
  });
  const first = insertText(1, "Well. ");
  it("moves text steps over later ones", () => {
    const one = apply(small(), first);
    const back = invert(small(), first);
    const later = insertText(1, "Now: ");
    const two = apply(one, later);
    const moved = rebase(two, back, [{ edit: later, takesBack: null }]);
    expect(wordsIn(apply(two, moved))).toContain("Now: Hello there");
  });
  it("finds text again that was deleted and brought back", () => {
    const one = apply(small(), first);
    const deletion = deleteText(1, 7);
    const undoDeletion = invert(one, deletion);
    const two = apply(apply(one, deletion), undoDeletion);
    const moved = rebase(two, invert(small(), first), [
      { edit: deletion, takesBack: null },
      { edit: undoDeletion, takesBack: 0 },
    ]);
    expect(canonical(apply(two, moved))).toBe(canonical(small()));
  });
  it("says so when its ground is gone", () => {
    const set: Edit = { type: "set", node: "t1", path: ["size"], value: 20 };
    const again: Edit = { type: "set", node: "t1", path: ["size"], value: 30 };
    const document = apply(apply(small(), set), again);
    const back = invert(small(), set);
    expect(() => rebase(document, back, [{ edit: again, takesBack: null }])).toThrow(EditError);
    // An edit that was itself taken back does not stand in the way.
    const undone = invert(apply(small(), set), again);
    const later = [
      { edit: again, takesBack: null },
      { edit: undone, takesBack: 0 },
    ];
    const moved = rebase(apply(document, undone), back, later);
    expect(canonical(apply(apply(document, undone), moved))).toBe(canonical(small()));
  });
});
