import { expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { apply, find } from "#core/document/index.ts";
import { duplicate, shift, takeOut } from "../doing/actions.ts";
import { intoBand, intoCard } from "../doing/grouping.ts";
import { putDown } from "../doing/put-down.ts";
import { range, toggled } from "./chosen.ts";

const spacer = (id: string) => createBlock("spacer", () => id);
const column = (id: string, ...blocks: ReturnType<typeof spacer>[]) =>
  createColumn(() => id, blocks);
/** Band `one`: a, b, c in one column; band `two`: d | a card with x and y; band `three`: z. */
const doc = createDocument([
  createBand(() => "one", [column("c1", spacer("a"), spacer("b"), spacer("c"))]),
  createBand(
    () => "two",
    [
      column("c2", spacer("d")),
      column(
        "c3",
        createBlock("card", () => "card", {}, [spacer("x"), spacer("y")]),
      ),
    ],
  ),
  createBand(() => "three", [column("c4", spacer("z"))]),
]);
const children = (of: typeof doc, id: string) => find(of, id)!.node.children.map((one) => one.id);

it("chooses what lies between two pieces, as they stand", () => {
  expect(range(doc, "a", "c")).toEqual(["a", "b", "c"]);
  expect(range(doc, "z", "b")).toEqual(["b", "c", "d", "card", "z"]);
  expect(range(doc, "x", "y")).toEqual(["x", "y"]);
  expect(range(doc, "one", "z")).toEqual(["one", "two", "three"]);
});

it("adds and takes away one piece, and begins anew on another level", () => {
  expect(toggled(doc, ["c"], "a")).toEqual(["a", "c"]);
  expect(toggled(doc, ["a", "c"], "c")).toEqual(["a"]);
  expect(toggled(doc, ["a"], "two")).toEqual(["two"]);
  expect(toggled(doc, ["x", "a"], "card")).toEqual(["a", "card"]);
  expect(toggled(doc, ["card"], "x")).toEqual(["x"]);
});

it("moves several pieces together, in their order", () => {
  const ids = ["a", "c"];
  const moved = apply(
    doc,
    putDown(doc, { kind: "nodes", ids }, { parent: "c4", after: "z" })!.edit,
  );
  expect(children(moved, "c4")).toEqual(["z", "a", "c"]);
  expect(children(moved, "c1")).toEqual(["b"]);
  const all = { kind: "nodes", ids: ["a", "b", "c"] } as const;
  const emptied = apply(doc, putDown(doc, all, { parent: "c4", after: null })!.edit);
  expect(emptied.root.children.map((band) => band.id)).toEqual(["two", "three"]);
  // Where they stand already, nothing happens.
  const here = { kind: "nodes", ids: ["a", "b"] } as const;
  expect(putDown(doc, here, { parent: "c1", after: null })).toBeNull();
  expect(putDown(doc, here, { parent: "c1", after: "b" })).toBeNull();
  expect(children(apply(doc, shift(doc, ["a", "b"], 1)!.edit), "c1")).toEqual(["c", "a", "b"]);
});

it("copies neighbours after the last of them, and others each after its own", () => {
  const near = apply(doc, duplicate(doc, ["a", "b"])!.edit);
  expect(children(near, "c1").filter((id) => ["a", "b", "c"].includes(id))).toEqual([
    "a",
    "b",
    "c",
  ]);
  expect(children(near, "c1")).toHaveLength(5);
  expect(children(near, "c1")[4]).toBe("c");
  const far = apply(doc, duplicate(doc, ["a", "z"])!.edit);
  expect([children(far, "c1").length, children(far, "c4").length]).toEqual([4, 2]);
});

it("takes out several pieces, with the bands they leave empty", () => {
  const doing = takeOut(doc, ["a", "b", "c", "d"])!;
  const left = apply(doc, doing.edit);
  expect(left.root.children.map((band) => band.id)).toEqual(["two", "three"]);
  expect(children(left, "c2")).toEqual([]);
  expect(doing.select).toBe("c2");
});

it("groups blocks into a card where the first stands, or into a band after its own", () => {
  const card = intoCard(doc, ["b", "z"])!;
  const grouped = apply(doc, card.edit);
  expect(children(grouped, "c1")).toEqual(["a", card.select, "c"]);
  expect(children(grouped, card.select as string)).toEqual(["b", "z"]);
  expect(find(grouped, "three")).toBeNull();
  expect(intoCard(doc, ["x", "a"])).toBeNull();
  const band = intoBand(doc, ["a", "d"])!;
  const own = apply(doc, band.edit);
  expect(own.root.children.map((one) => one.id)).toEqual(["one", band.select, "two", "three"]);
  const [inside] = find(own, band.select as string)!.node.children;
  expect(inside!.children.map((one) => one.id)).toEqual(["a", "d"]);
});

it("puts a block beside another: into a new column, or cutting a stack around it", () => {
  const one = { kind: "new", type: "button" } as const;
  const apart = apply(doc, putDown(doc, one, { beside: "d", side: "left" })!.edit);
  expect(find(apart, "two")!.node.children.map((c) => c.children.map((b) => b.type))).toEqual([
    ["button"],
    ["spacer"],
    ["card"],
  ]);
  const cut = apply(doc, putDown(doc, one, { beside: "b", side: "right" })!.edit);
  const [first, middle, last] = cut.root.children;
  expect(first!.children[0]!.children.map((b) => b.id)).toEqual(["a"]);
  expect(middle!.children.map((c) => c.children.map((b) => b.type))).toEqual([
    ["spacer"],
    ["button"],
  ]);
  expect(middle!.children[0]!.children[0]!.id).toBe("b");
  expect(last!.children[0]!.children.map((b) => b.id)).toEqual(["c"]);
  // A block of the same stack can go beside its neighbour; its old place closes.
  const load = { kind: "nodes", ids: ["a"] } as const;
  const moved = apply(doc, putDown(doc, load, { beside: "b", side: "left" })!.edit);
  expect(moved.root.children[0]!.children.map((c) => c.children.map((b) => b.id))).toEqual([
    ["a"],
    ["b"],
  ]);
});
