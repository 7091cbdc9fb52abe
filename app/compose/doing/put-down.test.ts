import { expect, it } from "vitest";
import { createBlock } from "#core/blocks/index.ts";
import { apply, type DocNode, EditError, find } from "#core/document/index.ts";
import { LIMITS } from "#core/limits.ts";
import { emailOf } from "#core/testing/rendered.ts";
import { phrase } from "#core/text/index.ts";
import { putDown } from "./put-down.ts";

const heading = (id: string, level: number) =>
  createBlock("heading", () => id, { level, words: phrase(id) });

/** The level a new block gets behind the last of these. */
function levelOf(type: string, ...before: DocNode[]): unknown {
  const doc = emailOf(before);
  const column = doc.root.children[0]!.children[0]!;
  const after = before.at(-1)?.id ?? null;
  const doing = putDown(doc, { kind: "new", type }, { parent: column.id, after })!;
  return find(apply(doc, doing.edit), doing.select as string)!.node.props.level;
}

it("a new title comes at the level that fits where it stands", () => {
  expect(levelOf("heading")).toBe(1);
  // The email's own title is one; then they stand beside each other.
  expect(levelOf("heading", heading("a", 1))).toBe(2);
  expect(levelOf("heading", heading("a", 1), heading("b", 2))).toBe(2);
  expect(levelOf("heading", heading("a", 1), heading("b", 2), heading("c", 3))).toBe(3);
  expect(levelOf("pictureAndWords", heading("a", 1))).toBe(2);
  expect(levelOf("pictureAndWords", heading("a", 1), heading("b", 2))).toBe(3);
  expect(levelOf("pictureAndWords")).toBe(2);
  // The title of a block says nothing about the headings that follow.
  const beside = createBlock("pictureAndWords", () => "p", { level: 3 });
  expect(levelOf("heading", heading("a", 1), heading("b", 2), beside)).toBe(2);
});

it("is said to be too much when it is done, not before, where the email is full", () => {
  const room = LIMITS.nodesPerDocument - 3;
  const full = emailOf(
    Array.from({ length: room }, (_, i) => createBlock("spacer", () => `s${i}`)),
  );
  const column = full.root.children[0]!.children[0]!;
  const doing = putDown(
    full,
    { kind: "new", type: "heading" },
    { parent: column.id, after: null },
  )!;
  expect(() => apply(full, doing.edit)).toThrow(EditError);
});

it("what has no title is put down as it is", () => {
  expect(levelOf("text", heading("a", 1))).toBeUndefined();
});
