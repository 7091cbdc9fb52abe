import fc from "fast-check";
import { expect, it } from "vitest";
import {
  checkDocument,
  createBand,
  createBlock,
  createColumn,
  createDocument,
} from "#core/blocks/index.ts";
import { apply, type Edit, find, walk } from "#core/document/index.ts";
import { documentArbitrary, editArbitrary } from "#core/testing/arbitrary-documents.ts";
import { bringBack } from "./bring-back.ts";

const block = (id: string, height = 20) => createBlock("spacer", () => id, { height });
const earlier = createDocument([
  createBand(() => "one", [createColumn(() => "c1", [block("a"), block("b"), block("c")])]),
  createBand(
    () => "two",
    [createColumn(() => "c2", [createBlock("card", () => "card", {}, [block("x")])])],
  ),
]);
const after = (...edits: Edit[]) => edits.reduce(apply, earlier);
const brought = (now: typeof earlier, id: string) => apply(now, bringBack(now, earlier, id)!.edit);
const ids = (doc: typeof earlier, parent: string) =>
  find(doc, parent)!.node.children.map((one) => one.id);

it("puts a block back in the place of what it is now", () => {
  const now = after(
    { type: "set", node: "b", path: ["height"], value: 90 },
    { type: "move", node: "b", parent: "c1", after: null },
  );
  const doc = brought(now, "b");
  expect(ids(doc, "c1")).toEqual(["b", "a", "c"]);
  expect(find(doc, "b")!.node.props.height).toBe(20);
  expect(bringBack(doc, earlier, "b")).toBeNull();
});

it("puts one that is gone after what it stood after", () => {
  expect(ids(brought(after({ type: "remove", node: "c" }), "c"), "c1")).toEqual(["a", "b", "c"]);
  const both = after({ type: "remove", node: "b" }, { type: "remove", node: "c" });
  expect(ids(brought(both, "c"), "c1")).toEqual(["a", "c"]);
  const band = after({ type: "remove", node: "one" });
  expect(ids(brought(band, "one"), "email")).toEqual(["one", "two"]);
  const own = brought(band, "b");
  expect(own.root.children[0]!.children[0]!.children.map((one) => one.id)).toEqual(["b"]);
});

it("leaves alone what has moved out of a card meanwhile", () => {
  const now = after(
    { type: "move", node: "x", parent: "c1", after: null },
    { type: "set", node: "card", path: ["corner"], value: 12 },
  );
  const doc = brought(now, "card");
  expect(ids(doc, "c1")[0]).toBe("x");
  expect(find(doc, ids(doc, "c2")[0]!)!.node.children).toHaveLength(1);
});

it("always makes a whole document", () => {
  fc.assert(
    fc.property(
      documentArbitrary.chain((doc) => fc.tuple(fc.constant(doc), editArbitrary(doc), fc.nat())),
      ([doc, edit, at]) => {
        if (!edit) return;
        const now = apply(doc, edit);
        const nodes = [...walk(doc.root)];
        const doing = bringBack(now, doc, nodes[at % nodes.length]!.id);
        if (doing) checkDocument(apply(now, doing.edit));
      },
    ),
  );
});
