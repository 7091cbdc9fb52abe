import { expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { apply, find } from "#core/document/index.ts";
import { doc } from "#core/text/index.ts";
import { puttingBack, textsLost } from "./clashes.ts";

let n = 0;
const id = () => `n${++n}`;
const text = (words: string) => createBlock("text", id, { words: doc(words) });
const [first, second, gone] = [text("first"), text("second"), text("mine")];
const column = createColumn(id, [first, second]);
const document = createDocument([createBand(id, [column])]);
const lost = { node: gone, parent: column.id, after: first.id };
const clash = { node: gone.id, path: null, mine: null, theirs: null, lost };

it("a block that is gone is put back after what it stood after, or else at the end", () => {
  const after = (doc: typeof document) => {
    const put = apply(doc, puttingBack(clash as never, doc)!);
    return find(put, column.id)!.node.children.map((one) => one.id);
  };
  expect(after(document)).toEqual([first.id, gone.id, second.id]);
  const without = apply(document, { type: "remove", node: first.id });
  expect(after(without)).toEqual([second.id, gone.id]);
});

it("there is no edit where what held the block is gone too", () => {
  const without = apply(document, { type: "remove", node: document.root.children[0]!.id });
  expect(puttingBack(clash as never, without)).toBeNull();
});

it("of changes that were refused the texts are kept, each as it stood", () => {
  const before = apply(document, {
    type: "set",
    node: first.id,
    path: ["words"],
    value: doc("first, and more") as never,
  });
  const edit = { type: "text", node: first.id, path: ["words"], steps: [] } as never;
  const change = { id: "c", edit, does: "do", step: "c", of: null } as const;
  const [kept] = textsLost([change], before, document);
  expect([kept!.mine, kept!.theirs]).toEqual([doc("first, and more"), doc("first")]);
});
