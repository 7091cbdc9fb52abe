/** Linked blocks: the same wherever they stand, whatever somebody tries; brought up to date and made loose. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  apply,
  type DocNode,
  type Edit,
  EditError,
  type EmailDocument,
  find,
  walk,
} from "../document/index.ts";
import { canonical } from "../json.ts";
import { chance } from "../random.ts";
import { lettersFrom, randomEdit } from "../testing/random-edits.ts";
import { ids } from "../testing/rendered.ts";
import { doc, line } from "../text/index.ts";
import { checkDocument, createBand, createBlock, createColumn, createDocument } from "./index.ts";
import {
  bringingUpToDate,
  checkLinks,
  hasLinks,
  linkedAround,
  linkedTo,
  linksIn,
  unlinked,
} from "./linked.ts";

const id = ids("k");
const text = (words = "Words") => createBlock("text", id, { words: doc(words) });
const footer = linkedTo(
  "foot",
  createBand(id, [createColumn(id, [text("Find us"), text("Ways here")])]),
);
const call = linkedTo("call", createBlock("button", id, { label: line("Go") }));
const open = createBand(id, [createColumn(id, [text(), call])]);
const EMAIL = createDocument([open, footer]);
const inFooter = footer.children[0]!.children[0]!;

const tried = (edit: Edit, email: EmailDocument = EMAIL): string | null => {
  try {
    checkLinks(email, apply(email, edit), edit);
    return null;
  } catch (error) {
    if (!(error instanceof EditError)) throw error;
    return error.message;
  }
};
const set = (node: string, path: string[], value?: unknown): Edit =>
  ({ type: "set", node, path, value }) as Edit;
const link = (saved: string, own?: true) => (own ? { saved, own } : { saved });

describe("what is linked", () => {
  it("is known by itself and by all that stands in it", () => {
    expect(hasLinks(EMAIL.root)).toBe(true);
    expect(linksIn(EMAIL.root)).toEqual(new Set(["foot", "call"]));
    expect(linkedAround(EMAIL, inFooter.id)?.id).toBe(footer.id);
    expect(linkedAround(EMAIL, open.children[0]!.children[0]!.id)).toBeNull();
    expect(linksIn(unlinked(EMAIL.root)).size).toBe(0);
  });
  it("is not changed, filled, emptied, or linked to another where it stands", () => {
    const column = footer.children[0]!.id;
    for (const edit of [
      set(inFooter.id, ["words"], doc("Others")),
      set(call.id, ["label"], line("Come")),
      set(footer.id, ["background"], "tint"),
      set(footer.id, ["linked"], link("other")),
      { type: "remove", node: inFooter.id } as Edit,
      { type: "insert", node: text(), parent: column, after: null } as Edit,
      { type: "move", node: inFooter.id, parent: open.children[0]!.id, after: null } as Edit,
    ]) {
      expect(tried(edit), JSON.stringify(edit)).toContain("it is linked");
    }
  });
  it("is moved, taken out, shown to some, and made loose", () => {
    for (const edit of [
      { type: "move", node: footer.id, parent: EMAIL.root.id, after: null } as Edit,
      { type: "remove", node: footer.id } as Edit,
      set(footer.id, ["show"], "wide"),
      set(footer.id, ["linked"]),
      set(footer.id, ["linked"], link("foot", true)),
      set(open.children[0]!.children[0]!.id, ["words"], doc("Free")),
      { type: "restore", root: { ...EMAIL.root, children: [open] } } as Edit,
    ]) {
      expect(tried(edit), JSON.stringify(edit)).toBeNull();
    }
    const own = apply(EMAIL, set(footer.id, ["linked"], link("foot", true)));
    expect(tried(set(inFooter.id, ["words"], doc("Others")), own)).toBeNull();
  });
});

describe("bringing up to date", () => {
  const saved = (words: string): DocNode => createBand(id, [createColumn(id, [text(words)])]);
  const upToDate = (email: EmailDocument, known: ReadonlyMap<string, readonly DocNode[]>) =>
    bringingUpToDate(email, known, id).reduce(apply, email);
  it("puts in what the saved block says now, with the place's own readers and name", () => {
    const shown = apply(EMAIL, set(footer.id, ["show"], "wide"));
    const after = upToDate(shown, new Map([["foot", [saved("Now here")]]]));
    checkDocument(after);
    const there = find(after, footer.id)!.node;
    expect([there.props.show, there.props.linked]).toEqual(["wide", { saved: "foot" }]);
    expect(JSON.stringify(there)).toContain("Now here");
    expect(JSON.stringify(there)).not.toContain("Find us");
    expect(after.root.children.map((band) => band.id)).toEqual([open.id, footer.id]);
  });
  it("does nothing where all is as it should be, whatever nodes are called", () => {
    const known = new Map([["foot", [saved("Now here")]]]);
    const after = upToDate(EMAIL, known);
    expect(bringingUpToDate(after, known, id)).toEqual([]);
    expect(bringingUpToDate(createDocument([open]), new Map(), id)).toEqual([]);
    expect(
      bringingUpToDate(createDocument([createBand(id, [createColumn(id, [text()])])]), known, id),
    ).toEqual([]);
  });
  it("leaves what is changed here, what is gone, and what has become of another kind", () => {
    const own = apply(EMAIL, set(footer.id, ["linked"], link("foot", true)));
    expect(bringingUpToDate(own, new Map([["foot", [saved("x")]]]), id)).toEqual([]);
    expect(bringingUpToDate(EMAIL, new Map(), id)).toEqual([]);
    expect(bringingUpToDate(EMAIL, new Map([["foot", [text()]]]), id)).toEqual([]);
    expect(bringingUpToDate(EMAIL, new Map([["foot", [saved("x"), saved("y")]]]), id)).toEqual([]);
  });
  it("brings neighbours up to date in their order", () => {
    const two = createDocument([footer, { ...footer, id: "second", children: [] }]);
    const after = upToDate(two, new Map([["foot", [saved("Both")]]]));
    expect(after.root.children.map((band) => band.id)).toEqual([footer.id, "second"]);
    expect(JSON.stringify(after).match(/Both/g)).toHaveLength(2);
  });
});

it("whatever is edited, what stays linked stays as it is", () => {
  const content = (email: EmailDocument) =>
    new Map(
      [...walk(email.root)].flatMap((node) => {
        const own = node.props.linked as { saved: string; own?: true } | undefined;
        const { linked: _l, show: _s, seenBy: _b, chain: _c, hold: _h, ...props } = node.props;
        return own && !own.own
          ? [[node.id, canonical({ props, children: node.children } as never)] as const]
          : [];
      }),
    );
  fc.assert(
    fc.property(fc.nat(), (seed) => {
      const [random, letters] = [chance(seed), lettersFrom()];
      let email = EMAIL;
      let made = 0;
      for (let i = 0; i < 12; i++) {
        const before = content(email);
        const edit = randomEdit(email, random, letters, () => `n${++made}`, [EMAIL]);
        if (!edit) continue;
        try {
          const next = apply(email, edit);
          checkDocument(next);
          checkLinks(email, next, edit);
          email = next;
        } catch (error) {
          if (!(error instanceof EditError)) throw error;
        }
        const now = content(email);
        for (const [node, was] of before) if (now.has(node)) expect(now.get(node)).toBe(was);
      }
    }),
    { numRuns: 150 },
  );
});
