import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../../blocks/index.ts";
import { canonical } from "../../json.ts";
import { chance } from "../../random.ts";
import { documentArbitrary, editArbitrary } from "../../testing/arbitrary-documents.ts";
import { lettersFrom, randomEdit } from "../../testing/random-edits.ts";
import { doc } from "../../text/index.ts";
import { find } from "../lookup.ts";
import type { EmailDocument } from "../model.ts";
import {
  apply,
  type Edit,
  EditError,
  invert,
  type Later,
  moveOver,
  type SimpleEdit,
} from "./index.ts";

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

  it("is taken back so in a row of edits of all kinds, groups, translations and conditions among them", () => {
    fc.assert(
      fc.property(documentArbitrary, fc.nat(), (document, seed) => {
        const [random, letters] = [chance(seed), lettersFrom()];
        let ids = 0;
        let state = document;
        const states = [document];
        for (let i = 0; i < 12; i++) {
          const edit = randomEdit(state, random, letters, () => `r${++ids}`, states);
          if (!edit) continue;
          const spelling = canonical(state);
          const after = apply(state, edit);
          const back = invert(state, edit);
          expect(canonical(apply(after, back))).toBe(spelling);
          expect(canonical(state)).toBe(spelling);
          state = after;
          states.push(state);
        }
      }),
      { numRuns: 60 },
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
  const clash = (mine: Edit, other: Edit) =>
    moveOver(small(), [{ edit: mine, yields: false }], [{ edit: other, takesBack: [] }]).unmerged
      .length > 0;
  it("clash only where they write the same text", () => {
    const mine = insertText(1, "A");
    // Both letters can be kept: they are joined.
    expect(clash(mine, insertText(3, "B"))).toBe(false);
    expect(clash(deleteText(1, 4), insertText(3, "B"))).toBe(true);
    expect(clash(mine, { type: "remove", node: "t1" })).toBe(true);
    expect(clash(mine, { type: "set", node: "t1", path: ["words"], value: null })).toBe(true);
    expect(clash(mine, { type: "set", node: "t1", path: ["size"], value: 20 })).toBe(false);
    expect(clash(mine, { type: "remove", node: "t2" })).toBe(false);
  });
});

/** An inverse, made for a state, moved over what came after it; null where nothing is left of it. */
const back = (state: EmailDocument, inverse: Edit, later: readonly Later[]) =>
  moveOver(state, [{ edit: inverse, yields: true }], later).edits[0]!;
const then = (edit: Edit, ...takesBack: number[]): Later => ({ edit, takesBack });

describe("taking back over what came later", () => {
  it("never writes over what others did after going back to an earlier state", () => {
    const before = small();
    const restored: Edit = { type: "restore", root: { ...before.root, children: [] } };
    const inverse = invert(before, restored);
    const set: Edit = { type: "set", node: "email", path: ["width"], value: 640 };
    expect(back(apply(before, restored), inverse, [then(set)])).toBeNull();
    expect(back(apply(before, restored), inverse, [])).toEqual(inverse);
  });
  const first = insertText(1, "Well. ");
  it("moves text steps over later ones", () => {
    const one = apply(small(), first);
    const later = insertText(1, "Now: ");
    const moved = back(one, invert(small(), first), [then(later)]);
    expect(wordsIn(apply(apply(one, later), moved))).toContain("Now: Hello there");
  });
  it("finds text again that was deleted and brought back", () => {
    const one = apply(small(), first);
    const deletion = deleteText(1, 7);
    const undoDeletion = invert(one, deletion);
    const two = apply(apply(one, deletion), undoDeletion);
    const moved = back(one, invert(small(), first), [then(deletion), then(undoDeletion, 0)]);
    expect(canonical(apply(two, moved))).toBe(canonical(small()));
  });
  it("says so when its ground is gone", () => {
    const set: Edit = { type: "set", node: "t1", path: ["size"], value: 20 };
    const again: Edit = { type: "set", node: "t1", path: ["size"], value: 30 };
    const one = apply(small(), set);
    const inverse = invert(small(), set);
    expect(back(one, inverse, [then(again)])).toBeNull();
    // An edit that was itself taken back does not stand in the way.
    const undone = invert(one, again);
    const document = apply(apply(one, again), undone);
    const moved = back(one, inverse, [then(again), then(undone, 0)]);
    expect(canonical(apply(document, moved))).toBe(canonical(small()));
  });
});
