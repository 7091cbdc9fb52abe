import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { checkDocument, createBlock } from "#core/blocks/index.ts";
import { newRow, TABLE_KINDS } from "#core/blocks/table-items.ts";
import {
  apply,
  type DocNode,
  type EmailDocument,
  find,
  isItem,
  walk,
} from "#core/document/index.ts";
import { createItem } from "#core/kinds/item.ts";
import { documentArbitrary } from "#core/testing/arbitrary-documents.ts";
import { emailOf, ids } from "#core/testing/rendered.ts";
import { type TextJson, wordsOf } from "#core/text/index.ts";
import { landingAt } from "../placing/landing.ts";
import { spotAfter } from "../placing/spots.ts";
import { addItem, duplicate, moveItem, readingOrder, shift, takeOut } from "./actions.ts";
import { equalShares, LEAST_SHARE, sharesOf, withLine, withShare } from "./column-widths.ts";
import type { Doing } from "./doing.ts";
import { putDown } from "./put-down.ts";
import { nextCell } from "./table-columns.ts";

const newId = ids("i");
const linksRow = () => ({ ...createBlock("linksRow", newId), id: "row" });
const table = () =>
  createBlock("table", () => "table", {}, [
    createItem(TABLE_KINDS.column, () => "c1"),
    createItem(TABLE_KINDS.column, () => "c2"),
    createItem(TABLE_KINDS.column, () => "c3"),
    newRow(newId, ["a", "b", "c"]),
    newRow(newId, ["d", "e", "f"]),
  ]);
const done = (doc: EmailDocument, doing: Doing | null) => {
  const after = apply(doc, doing!.edit);
  checkDocument(after);
  return after;
};
/** The words of a table, row by row. */
const words = (doc: EmailDocument) =>
  find(doc, "table")!
    .node.children.filter(({ type }) => type === "table.row")
    .map((row) =>
      row.children
        .map(({ props }) => wordsOf((props.words as unknown as TextJson).content![0]!))
        .join(""),
    );
const columns = (doc: EmailDocument) =>
  find(doc, "table")!
    .node.children.filter(({ type }) => type === "table.column")
    .map(({ id }) => id);

describe("a table's columns", () => {
  const doc = emailOf([table()]);
  it("come with a cell for every row", () => {
    const after = done(doc, addItem(doc, "table", "table.column"));
    expect(words(after)).toEqual(["abc", "def"]);
    expect(
      find(after, "table")!.node.children.filter(({ children }) => children.length === 4),
    ).toHaveLength(2);
    const copy = done(doc, duplicate(doc, ["c1"]));
    expect(columns(copy)).toHaveLength(4);
    expect(words(copy)).toEqual(["abc", "def"]);
  });
  it("go with their cells", () => {
    expect(words(done(doc, takeOut(doc, ["c2"])))).toEqual(["ac", "df"]);
    expect(takeOut(doc, ["c2"])!.select).toBe("c3");
  });
  it("move with their cells, one place or to another's", () => {
    const after = done(doc, shift(doc, ["c1"], 1));
    expect(columns(after)).toEqual(["c2", "c1", "c3"]);
    expect(words(after)).toEqual(["bac", "edf"]);
    const last = done(doc, moveItem(doc, "c1", "c3"));
    expect(words(last)).toEqual(["bca", "efd"]);
    expect(words(done(doc, moveItem(doc, "c3", "c1")))).toEqual(["cab", "fde"]);
    expect(shift(doc, ["c3"], 1)).toBeNull();
  });
  it("and its rows are apart: a row does not move among the columns", () => {
    const row = find(doc, "table")!.node.children.find(({ type }) => type === "table.row")!;
    expect(shift(doc, [row.id], -1)).toBeNull();
    expect(words(done(doc, shift(doc, [row.id], 1)))).toEqual(["def", "abc"]);
  });
  it("are walked cell by cell", () => {
    const cells = [...walk(doc.root)].filter(({ type }) => type === "table.row.cell");
    expect(nextCell(doc, cells[2]!.id, false)).toBe(cells[3]!.id);
    expect(nextCell(doc, cells[3]!.id, true)).toBe(cells[2]!.id);
    expect(nextCell(doc, cells[5]!.id, false)).toBeNull();
  });
});

describe("items of any block", () => {
  it("never leave the document unfit, whatever is done to them", () => {
    fc.assert(
      fc.property(documentArbitrary, fc.nat(), (doc, pick) => {
        const items = [...walk(doc.root)].filter(({ type }) => isItem(type));
        if (items.length === 0) return;
        const { id, type } = items[pick % items.length]!;
        const parent = find(doc, id)!.parent!;
        const other = parent.children.findLast((child) => child.type === type)!;
        const doings = [
          duplicate(doc, [id]),
          shift(doc, [id], 1),
          shift(doc, [id], -1),
          moveItem(doc, id, other.id),
          addItem(doc, parent.id, type),
          takeOut(doc, [id]),
        ];
        for (const doing of doings) {
          if (!doing) continue;
          const after = apply(doc, doing.edit);
          // Only how many there may be is left to the check.
          try {
            checkDocument(after);
          } catch (error) {
            expect((error as Error).message).toMatch(/at (most|least)/);
          }
        }
      }),
      { numRuns: 60 },
    );
  });
  it("are shown in the running order while one of them is selected", () => {
    const doc = emailOf([linksRow()]);
    const [first] = find(doc, "row")!.node.children;
    const shown = (selected: string | null) => readingOrder(doc, selected).map(({ id }) => id);
    expect(shown("row")).not.toContain(first!.id);
    expect(shown(first!.id)).toContain(first!.id);
  });
});

describe("cards", () => {
  const text = createBlock("text", () => "text");
  const doc = emailOf([
    createBlock("card", () => "card", {}, [text]),
    createBlock("text", () => "after"),
  ]);
  const column = find(doc, "card")!.parent!.id;
  it("take new blocks in while they are selected; a second card goes beside", () => {
    expect(spotAfter(doc, "card", { kind: "new", type: "heading" })).toEqual({
      parent: "card",
      after: "text",
    });
    expect(spotAfter(doc, "text", { kind: "new", type: "heading" })).toEqual({
      parent: "card",
      after: "text",
    });
    expect(spotAfter(doc, "text", { kind: "new", type: "card" })).toEqual({
      parent: column,
      after: "card",
    });
    expect(spotAfter(doc, "card", { kind: "new", type: "card" })).toEqual({
      parent: column,
      after: "card",
    });
  });
  it("are left at their edges", () => {
    const up = done(doc, shift(doc, ["text"], -1));
    expect(find(up, column)!.node.children.map(({ id }) => id)).toEqual(["text", "card", "after"]);
    const down = done(doc, shift(doc, ["text"], 1));
    expect(find(down, column)!.node.children.map(({ id }) => id)).toEqual([
      "card",
      "text",
      "after",
    ]);
  });
  it("stay when the last block in them goes", () => {
    const alone = emailOf([createBlock("card", () => "card", {}, [text])]);
    expect(find(done(alone, takeOut(alone, ["text"])), "card")!.node.children).toEqual([]);
  });

  // A column from 0 to 300: the card to 200, the text in it from 40 to 160.
  const boxes: Record<string, [number, number]> = {
    card: [0, 200],
    text: [40, 120],
    after: [200, 100],
  };
  const boxOf = (id: string) => {
    const [y, height] = boxes[id] ?? [0, 300];
    return { x: 0, y, width: 600, height };
  };
  const land = (y: number, type: string) =>
    landingAt(doc, { kind: "new", type }, { x: 300, y }, boxOf)!.spot;
  it("are landed in well inside, and beside near their edges", () => {
    expect(land(150, "heading")).toEqual({ parent: "card", after: "text" });
    expect(land(50, "heading")).toEqual({ parent: "card", after: null });
    expect(land(195, "heading")).toEqual({ parent: column, after: "card" });
    expect(land(150, "card")).toEqual({ parent: column, after: "card" });
  });
  it("take a block in by a move", () => {
    const doing = putDown(
      doc,
      { kind: "nodes", ids: ["after"] },
      { parent: "card", after: "text" },
    );
    expect(find(done(doc, doing), "card")!.node.children.map(({ id }) => id)).toEqual([
      "text",
      "after",
    ]);
  });
});

it("an item lands before or after another of its kind, across where they stand side by side", () => {
  const doc = emailOf([linksRow()]);
  const [a, b, c] = find(doc, "row")!.node.children as unknown as [DocNode, DocNode, DocNode];
  const at: Record<string, number> = { [a.id]: 0, [b.id]: 100, [c.id]: 200 };
  const boxOf = (id: string) => ({ x: at[id] ?? 0, y: 0, width: 100, height: 40 });
  const land = (x: number) => landingAt(doc, { kind: "nodes", ids: [a.id] }, { x, y: 20 }, boxOf)!;
  expect(land(180).spot).toEqual({ parent: "row", after: b.id });
  expect(land(120).spot).toEqual({ parent: "row", after: a.id });
  expect(land(290).spot).toEqual({ parent: "row", after: c.id });
  expect(land(290).line).toEqual({ x: 300, y: 0, width: 4, height: 40 });
});

describe("widths of columns", () => {
  const shares = fc
    .array(fc.integer({ min: LEAST_SHARE, max: 40 }), { minLength: 2, maxLength: 4 })
    .map((all) => sharesOf({ children: all.map((share) => ({ props: { share } })) } as never));
  const whole = (all: readonly number[]) => all.reduce((a, b) => a + b, 0);
  it("add up to a hundred and keep the least, however they are set", () => {
    fc.assert(
      fc.property(shares, fc.nat(), fc.integer({ min: -20, max: 140 }), (before, pick, value) => {
        const i = pick % before.length;
        const typed = withShare(before, i, value);
        expect(whole(typed)).toBe(100);
        expect(Math.min(...typed)).toBeGreaterThanOrEqual(LEAST_SHARE);
        const at = pick % (before.length - 1);
        const moved = withLine(before, at, value - 60);
        expect(whole(moved)).toBe(100);
        moved.forEach((share, k) => {
          if (k !== at && k !== at + 1) expect(share).toBe(before[k]);
        });
      }),
    );
    expect(equalShares(3)).toEqual([34, 33, 33]);
  });
});
