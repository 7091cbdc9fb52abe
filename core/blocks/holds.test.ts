/** Holds: what a template's author fixed stays, whatever way somebody tries to change it. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  apply,
  applyWithInverse,
  type DocNode,
  type Edit,
  EditError,
  type EmailDocument,
  walk,
} from "../document/index.ts";
import type { Hold } from "../kinds/hold.ts";
import { chance } from "../random.ts";
import { lettersFrom, randomEdit } from "../testing/random-edits.ts";
import { ids } from "../testing/rendered.ts";
import { doc, line } from "../text/index.ts";
import { checkHolds, hasHolds, holdOf } from "./holds.ts";
import { createBand, createBlock, createColumn, createDocument } from "./index.ts";

const id = ids("h");
const held = (hold: Hold | null, node: DocNode): DocNode =>
  hold === null ? node : { ...node, props: { ...node.props, hold } };
const text = () => createBlock("text", id, { words: doc("Words") });
const button = createBlock("button", id, { label: line("Go") });
const fixed = held("fixed", createBand(id, [createColumn(id, [button, held("free", text())])]));
const open = createBand(id, [createColumn(id, [held("text", text()), text()])]);
const EMAIL = createDocument([fixed, open]);
const [own, freeText] = fixed.children[0]!.children as [DocNode, DocNode];
const [textOnly, anything] = open.children[0]!.children as [DocNode, DocNode];

const tried = (edit: Edit, doc: EmailDocument = EMAIL): string | null => {
  try {
    checkHolds(doc, apply(doc, edit), edit);
    return null;
  } catch (error) {
    if (!(error instanceof EditError)) throw error;
    return error.message;
  }
};
const set = (node: DocNode, path: string[], value: unknown): Edit =>
  ({ type: "set", node: node.id, path, value }) as Edit;

describe("a hold", () => {
  it("is a node's own, or that of what it stands in", () => {
    expect(holdOf(EMAIL, own.id)).toBe("fixed");
    expect(holdOf(EMAIL, freeText.id)).toBe("free");
    expect(holdOf(EMAIL, anything.id)).toBe("free");
    expect(hasHolds(EMAIL)).toBe(true);
    expect(hasHolds(createDocument([open]))).toBe(true);
  });
  it("keeps what is fixed from being changed, filled, emptied, moved and taken out", () => {
    expect(tried(set(own, ["size"], 20))).toContain("its template holds it as it is");
    expect(tried(set(own, ["label"], line("Come")))).toContain("its template holds it as it is");
    expect(tried({ type: "remove", node: own.id } as Edit)).not.toBeNull();
    expect(tried({ type: "remove", node: fixed.id } as Edit)).not.toBeNull();
    const column = fixed.children[0]!.id;
    expect(
      tried({
        type: "insert",
        node: createBlock("divider", id),
        parent: column,
        after: own.id,
      } as Edit),
    ).not.toBeNull();
    expect(
      tried({ type: "move", node: own.id, parent: open.children[0]!.id, after: null } as Edit),
    ).not.toBeNull();
    expect(
      tried({ type: "move", node: fixed.id, parent: "email", after: open.id } as Edit),
    ).not.toBeNull();
    expect(
      tried({ type: "restore", root: { ...EMAIL.root, children: [open] } } as Edit),
    ).not.toBeNull();
  });
  it("lets words be written where the text is free, and nothing else", () => {
    expect(tried(set(textOnly, ["words"], doc("Others")))).toBeNull();
    expect(tried(set(textOnly, ["colour"], "accent"))).toContain("its text only");
    expect(tried({ type: "remove", node: textOnly.id } as Edit)).toContain("its text only");
  });
  it("does not reach what is free, nor what stands beside it", () => {
    expect(tried(set(freeText, ["colour"], "accent"))).toBeNull();
    expect(tried(set(anything, ["colour"], "accent"))).toBeNull();
    expect(tried({ type: "remove", node: anything.id } as Edit)).toBeNull();
    expect(tried({ type: "move", node: open.id, parent: "email", after: null } as Edit)).toBeNull();
  });
  it("is itself nobody's to change who is held", () => {
    expect(tried(set(own, ["hold"], "free"))).toContain("only those who may change templates");
    expect(tried(set(anything, ["hold"], "fixed"))).toContain(
      "only those who may change templates",
    );
  });
});

it("whatever edits come in whatever order, what is fixed is as it was where none is refused", () => {
  fc.assert(
    fc.property(fc.nat(), (seed) => {
      const [random, letters] = [chance(seed), lettersFrom()];
      let email = EMAIL;
      let made = 0;
      for (let i = 0; i < 12; i++) {
        const edit = randomEdit(email, random, letters, () => `n${++made}`, [
          createDocument([open]),
        ]);
        if (!edit) continue;
        try {
          const { doc: next } = applyWithInverse(email, edit);
          checkHolds(email, next, edit);
          email = next;
        } catch (error) {
          if (!(error instanceof EditError)) throw error;
        }
      }
      const nodes = new Map([...walk(email.root)].map((node) => [node.id, node]));
      expect(nodes.get(own.id)).toEqual(own);
      expect(nodes.get(fixed.id)?.props).toEqual(fixed.props);
      const plain = ({ props }: DocNode) => ({ ...props, words: null, tr: null, plain: null });
      expect(plain(nodes.get(textOnly.id)!)).toEqual(plain(textOnly));
    }),
    { numRuns: 150 },
  );
});
