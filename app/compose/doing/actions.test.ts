import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { apply, type EmailDocument, find, walk } from "#core/document/index.ts";
import { documentArbitrary } from "#core/testing/arbitrary-documents.ts";
import { spotAfter } from "../placing/spots.ts";
import {
  type ColumnMemory,
  duplicate,
  readingOrder,
  setColumns,
  shift,
  takeOut,
} from "./actions.ts";
import { putDown } from "./put-down.ts";

const NEW = { kind: "new", type: "text" } as const;

/** Band `top` with column `left` (a, b) and `right` (c); band `foot` with column `f` and a footer. */
const email = (): EmailDocument =>
  createDocument([
    createBand(
      () => "top",
      [
        createColumn(
          () => "left",
          ["a", "b"].map((id) => createBlock("spacer", () => id)),
        ),
        createColumn(() => "right", [createBlock("spacer", () => "c")]),
      ],
    ),
    createBand(() => "foot", [createColumn(() => "f", [createBlock("footer", () => "z")])]),
  ]);
const children = (doc: EmailDocument, id: string) => find(doc, id)!.node.children.map((c) => c.id);

describe("putting down", () => {
  it("makes a band of its own between bands", () => {
    const doing = putDown(
      email(),
      { kind: "new", type: "button" },
      { parent: "email", after: "top" },
    )!;
    const doc = apply(email(), doing.edit);
    const [top, band, foot] = doc.root.children;
    expect([top!.id, foot!.id]).toEqual(["top", "foot"]);
    expect(band!.children[0]!.children[0]!.id).toBe(doing.select);
  });
  it("moves a block, and takes the band away that it leaves empty", () => {
    const load = { kind: "nodes", ids: ["z"] } as const;
    const doc = apply(email(), putDown(email(), load, { parent: "right", after: "c" })!.edit);
    expect(children(doc, "right")).toEqual(["c", "z"]);
    expect(find(doc, "foot")).toBeNull();
  });
  it("does nothing where nothing would change", () => {
    const load = { kind: "nodes", ids: ["b"] } as const;
    expect(putDown(email(), load, { parent: "left", after: "a" })).toBeNull();
    expect(putDown(email(), load, { parent: "left", after: "b" })).toBeNull();
  });
});

describe("the spot after a selection", () => {
  it("is after a block, at the end of a column or band, and above the footer", () => {
    expect(spotAfter(email(), "a", NEW)).toEqual({ parent: "left", after: "a" });
    expect(spotAfter(email(), "left", NEW)).toEqual({ parent: "left", after: "b" });
    expect(spotAfter(email(), "top", NEW)).toEqual({ parent: "left", after: "b" });
    expect(spotAfter(email(), null, NEW)).toEqual({ parent: "email", after: "top" });
    expect(spotAfter(createDocument(), null, NEW)).toEqual({ parent: "email", after: null });
  });
});

describe("one step up or down", () => {
  const shifted = (id: string, by: 1 | -1) => apply(email(), shift(email(), [id], by)!.edit);
  it("stays in the column, then goes on into the next", () => {
    expect(children(shifted("a", 1), "left")).toEqual(["b", "a"]);
    expect(children(shifted("b", 1), "right")).toEqual(["b", "c"]);
    expect(children(shifted("c", 1), "f")).toEqual(["c", "z"]);
    expect(children(shifted("z", -1), "right")).toEqual(["c", "z"]);
  });
  it("ends at the ends", () => {
    expect(shift(email(), ["a"], -1)).toBeNull();
    expect(shift(email(), ["foot"], 1)).toBeNull();
    expect(shifted("foot", -1).root.children.map((b) => b.id)).toEqual(["foot", "top"]);
  });
});

describe("columns", () => {
  it("come and go, and no block is lost", () => {
    const three = apply(email(), setColumns(email(), "top", 3)!);
    expect(children(three, "top")).toHaveLength(3);
    const one = apply(three, setColumns(three, "top", 1)!);
    expect(children(one, "left")).toEqual(["a", "b", "c"]);
    expect(setColumns(one, "top", 1)).toBeNull();
  });
  it("that are given back have the blocks that stood in them", () => {
    const memory: ColumnMemory = new Map();
    const change = (doc: EmailDocument, count: number) =>
      apply(doc, setColumns(doc, "top", count, memory)!);
    const before = email().root.children[0]!.children.map((c) => c.children.map((b) => b.id));
    const one = change(email(), 1);
    const again = change(one, before.length);
    const after = again.root.children[0]!.children.map((c) => c.children.map((b) => b.id));
    expect(after).toEqual(before);
    expect(change(change(again, 1), 4).root.children[0]!.children[3]!.children).toEqual([]);
  });
  it("has a block where it stood last, and where it came from while that is gone", () => {
    const memory: ColumnMemory = new Map();
    const change = (doc: EmailDocument, count: number) =>
      apply(doc, setColumns(doc, "top", count, memory)!);
    const columns = (doc: EmailDocument) =>
      doc.root.children[0]!.children.map((c) => c.children.map((b) => b.id));
    // Taken away and undone: what was known of c then is of no use any more.
    change(email(), 1);
    const three = change(email(), 3);
    const third = three.root.children[0]!.children[2]!.id;
    const moved = apply(three, { type: "move", node: "c", parent: third, after: null });
    const one = change(change(moved, 2), 1);
    expect(columns(one)).toEqual([["a", "b", "c"]]);
    expect(columns(change(one, 3))).toEqual([["a", "b"], [], ["c"]]);
  });
});

it("copies right after the original, with ids of its own", () => {
  const doing = duplicate(email(), ["top"])!;
  const doc = apply(email(), doing.edit);
  expect(doc.root.children[1]!.id).toBe(doing.select);
  const ids = [...walk(doc.root)].map((node) => node.id);
  expect(new Set(ids).size).toBe(ids.length);
  expect(duplicate(email(), ["left"])).toBeNull();
});

it("takes out a block and selects its neighbour", () => {
  expect(takeOut(email(), ["a"])!.select).toBe("b");
  const last = takeOut(email(), ["z"])!;
  expect(last).toEqual({ edit: { type: "remove", node: "foot" }, select: "top" });
});

it("never makes an edit that does not fit", () => {
  fc.assert(
    fc.property(documentArbitrary, fc.nat(), fc.nat(), (doc, at, way) => {
      const order = readingOrder(doc);
      if (order.length === 0) return;
      const { id } = order[at % order.length]!;
      const doings = [duplicate(doc, [id]), takeOut(doc, [id]), shift(doc, [id], way % 2 ? 1 : -1)];
      for (const doing of doings) if (doing) apply(doc, doing.edit);
      const spot = spotAfter(doc, id, NEW);
      const put = putDown(doc, { kind: "new", type: "text" }, spot)!;
      expect(find(apply(doc, put.edit), put.select as string)).not.toBeNull();
    }),
  );
});
