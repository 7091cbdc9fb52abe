/** Documents of older versions become documents of this one, whatever is in them. */
import fc from "fast-check";
import { expect, it } from "vitest";
import { checkDocument, createBlock } from "../../blocks/index.ts";
import type { Json, JsonObject } from "../../json.ts";
import { documentArbitrary } from "../../testing/arbitrary-documents.ts";
import { emailOf, ids } from "../../testing/rendered.ts";
import { colourOf, isRole, STANDARD_THEME } from "../../theme/theme.ts";
import { type DocNode, SCHEMA_VERSION } from "../model.ts";
import { migrateEdit, migrateTree } from "./index.ts";
import { to5 } from "./to-5.ts";

/** What version 5 brought, by type, found by what it adds to nothing. */
const broughtTo = (type: string) =>
  Object.keys(to5.props(type, {})).filter((name) => name !== "parts" && name !== "type");
const PARTS_BEFORE: Record<string, readonly string[]> = {
  signOff: ["picture", "greeting", "role"],
  masthead: ["logo", "links", "webVersion"],
  pictureAndWords: ["picture", "title", "words"],
  coupon: ["title", "terms"],
  qrCode: ["caption"],
  video: ["caption"],
};

/** A tree as version 4 had it; blocks that it did not know are taken out. */
function asVersion4(node: DocNode): JsonObject {
  const brought = new Set(broughtTo(node.type));
  const props: { [name: string]: Json } = {};
  for (const [name, value] of Object.entries(node.props)) {
    if (!brought.has(name)) props[name] = value!;
  }
  const before = PARTS_BEFORE[node.type];
  if ("parts" in props) {
    const all = props.parts as JsonObject;
    if (before) props.parts = Object.fromEntries(before.map((name) => [name, all[name]!]));
    else delete props.parts;
  }
  if ("type" in props) {
    const { narrow: _, ...type } = props.type as JsonObject;
    props.type = type;
  }
  const later = new Set(["contents", "countdown", "article"]);
  const children = node.children.filter(({ type }) => !later.has(type));
  return { ...node, props, children: children.map(asVersion4) } as unknown as JsonObject;
}

it("any email of version 4 is an email of this version, with nothing in it that was not there", () => {
  fc.assert(
    fc.property(documentArbitrary, (document) => {
      const root = migrateTree(asVersion4(document.root), 4) as unknown as DocNode;
      checkDocument({ ...document, root });
      const visit = (node: DocNode) => {
        const { parts } = node.props as { parts?: Record<string, boolean> };
        const before = PARTS_BEFORE[node.type] ?? [];
        for (const [name, on] of Object.entries(parts ?? {})) {
          if (!before.includes(name))
            expect([node.type, name, on]).toEqual([node.type, name, false]);
        }
        node.children.forEach(visit);
      };
      visit(root);
    }),
    { numRuns: 60 },
  );
});

it("edits of version 4 set what is whole in this one", () => {
  const set = (path: string[], value: Json) =>
    migrateEdit({ type: "set", node: "x", path, value }, 4, () => "coupon") as JsonObject;
  const type = { font: null, size: 20, lineHeight: null, spacing: 0, capitals: false };
  expect(set(["type"], type).value).toEqual({ ...type, narrow: null });
  expect(set(["parts"], { title: false, terms: true }).value).toEqual({
    ...{ title: false, terms: true },
    ...{ action: false, until: false },
  });
  expect(set(["parts", "title"], false)).toMatchObject({ path: ["parts", "title"], value: false });
  const node = asVersion4(createBlock("button", ids("m")));
  const put = migrateEdit({ type: "insert", parent: "c", after: null, node }, 4, () => undefined);
  expect((put as unknown as { node: DocNode }).node.props).toMatchObject({
    look: "filled",
    narrow: "same",
  });
});

it("edits of version 4 that put a whole email back put one of this version back", () => {
  const old = asVersion4(emailOf([createBlock("button", ids("m"))]).root);
  const edit = migrateEdit({ type: "restore", root: old }, 4, () => undefined) as JsonObject;
  const root = edit.root as unknown as DocNode;
  expect(() => checkDocument({ schemaVersion: SCHEMA_VERSION, root })).not.toThrow();
  expect(root).not.toEqual(old);
});

it("what has the colour that it came with plays its new role, and what has another keeps it", () => {
  const node = (type: string, props: JsonObject): Json => ({ id: "a", type, props, children: [] });
  const migrated = (type: string, props: JsonObject) =>
    (migrateTree(node(type, props), 5) as { props: JsonObject }).props;
  expect(migrated("heading", { colour: "accent" })).toEqual({ colour: "heading" });
  expect(migrated("heading", { colour: "ink" })).toEqual({ colour: "ink" });
  expect(migrated("button", { fill: "accent", colour: "#ffffff" })).toEqual({
    ...{ fill: "button", colour: "#ffffff" },
  });
  // Roles of other things stay.
  expect(migrated("divider", { colour: "accent" })).toEqual({ colour: "accent" });
  expect(migrated("card", { ground: "sheet", other: "sheet" })).toEqual({
    ...{ ground: "card", other: "sheet" },
  });
  const set = (path: string[], value: Json) =>
    migrateEdit({ type: "set", node: "a", path, value }, 5, () => "button");
  expect(set(["fill"], "accent")).toMatchObject({ value: "button" });
  expect(set(["fill"], "quiet")).toMatchObject({ value: "quiet" });
  expect(set(["box", "fill"], "accent")).toMatchObject({ value: "accent" });
});

it("an email of version 5 looks as it did, whatever is in it", () => {
  const colours = (root: Json): string[] => {
    const found: string[] = [];
    JSON.stringify(root, (_, value) => {
      if (typeof value === "string" && isRole(value)) {
        found.push(colourOf(STANDARD_THEME.colours, value));
      }
      return value;
    });
    return found;
  };
  fc.assert(
    fc.property(documentArbitrary, ({ root }) => {
      const before = root as unknown as Json;
      expect(colours(migrateTree(before, 5))).toEqual(colours(before));
    }),
    { numRuns: 60 },
  );
});
