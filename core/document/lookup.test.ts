import fc from "fast-check";
import { expect, it } from "vitest";
import { documentArbitrary } from "../testing/arbitrary-documents.ts";
import { createDraft } from "./draft.ts";
import {
  documentSchema,
  find,
  mayHold,
  pathTo,
  SCHEMA_VERSION,
  walk,
  withNewIds,
} from "./index.ts";

it("finds every node at its place", () => {
  fc.assert(
    fc.property(documentArbitrary, (document) => {
      for (const node of walk(document.root)) {
        const place = find(document, node.id)!;
        expect(place.node).toBe(node);
        if (place.parent) expect(place.parent.children[place.index]).toBe(node);
        const path = pathTo(document, node.id);
        expect(path[0]).toBe(document.root);
        expect(path.at(-1)).toBe(node);
      }
      expect(find(document, "nobody")).toBeNull();
      expect(pathTo(document, "nobody")).toEqual([]);
    }),
    { numRuns: 50 },
  );
});

it("replaces one node and keeps everything beside the way to it", () => {
  fc.assert(
    fc.property(documentArbitrary, fc.nat(), (document, at) => {
      const nodes = [...walk(document.root)];
      const target = nodes[at % nodes.length]!;
      const draft = createDraft(document);
      draft.setProps(target.id, { x: 1 });
      const after = draft.done();
      const way = new Set(pathTo(document, target.id).map((node) => node.id));
      for (const node of nodes) {
        const same = find(after, node.id)!.node === node;
        expect(same).toBe(!way.has(node.id));
      }
    }),
    { numRuns: 50 },
  );
});

it("gives a copy ids of its own", () => {
  fc.assert(
    fc.property(documentArbitrary, (document) => {
      let n = 0;
      const copy = withNewIds(document.root, () => `copy${++n}`);
      const ids = new Set([...walk(document.root)].map((node) => node.id));
      for (const node of walk(copy)) expect(ids.has(node.id)).toBe(false);
      expect([...walk(copy)]).toHaveLength(ids.size);
    }),
    { numRuns: 30 },
  );
});

it("reads only documents of this version", () => {
  const root = { id: "email", type: "email", props: {}, children: [] };
  expect(documentSchema.safeParse({ schemaVersion: SCHEMA_VERSION, root }).success).toBe(true);
  expect(documentSchema.safeParse({ schemaVersion: 1, root }).success).toBe(false);
  const odd = { schemaVersion: SCHEMA_VERSION, root: { ...root, id: "a b" } };
  expect(documentSchema.safeParse(odd).success).toBe(false);
});

it("says what may stand where", () => {
  expect(mayHold("email", "band")).toBe(true);
  expect(mayHold("band", "column")).toBe(true);
  expect(mayHold("column", "text")).toBe(true);
  expect(mayHold("column", "card")).toBe(true);
  expect(mayHold("card", "text")).toBe(true);
  expect(mayHold("linksRow", "linksRow.link")).toBe(true);
  expect(mayHold("table.row", "table.row.cell")).toBe(true);
  for (const [parent, child] of [
    ["email", "text"],
    ["band", "text"],
    ["column", "band"],
    ["column", "column"],
    ["text", "text"],
    ["card", "card"],
    ["card", "band"],
    ["column", "linksRow.link"],
    ["linksRow", "table.row"],
    ["table", "table.row.cell"],
  ] as const) {
    expect(mayHold(parent, child)).toBe(false);
  }
});

it("comes to an end in a tree in which ids stand twice", () => {
  const leaf = {
    id: "twice",
    type: "text",
    props: {},
    children: [{ id: "in", type: "x.y", props: {}, children: [] }],
  };
  const column = { id: "twice", type: "column", props: {}, children: [leaf] };
  const root = { id: "email", type: "email", props: {}, children: [column] };
  const document = { schemaVersion: SCHEMA_VERSION, root } as never;
  expect(find(document, "twice")?.node).toBe(column);
  expect(find(document, "in")).toBeNull();
});
