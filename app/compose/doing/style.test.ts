import { expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { apply, find } from "#core/document/index.ts";
import { phrase } from "#core/text/index.ts";
import { putLookBack } from "./style.ts";

it("puts a look back and leaves what is said, in words, links and items", () => {
  let n = 0;
  const id = () => `s${++n}`;
  const heading = createBlock("heading", () => "h", { words: phrase("Mine"), colour: "#123456" });
  const row = { ...createBlock("linksRow", id), id: "row" };
  const document = createDocument([createBand(id, [createColumn(id, [heading, row])])]);
  const back = putLookBack(document, heading)!;
  const { props } = find(apply(document, back.edit), "h")!.node;
  expect(props.words).toEqual(phrase("Mine"));
  expect(props.colour).toBe(createBlock("heading", id).props.colour);
  const changed = apply(document, { type: "set", node: "row", path: ["show"], value: "wide" });
  const after = apply(changed, putLookBack(changed, find(changed, "row")!.node)!.edit);
  expect(find(after, "row")!.node.children).toEqual(row.children);
  expect(putLookBack(after, find(after, "row")!.node)).toBeNull();
});
