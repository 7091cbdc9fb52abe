import { describe, expect, it } from "vitest";
import { EditError, type EmailDocument, SCHEMA_VERSION, valueAt } from "../document/index.ts";
import type { BlockContext } from "../kinds/kind.ts";
import { parseText, type TextJson } from "../text/index.ts";
import { STANDARD_THEME } from "../theme/theme.ts";
import {
  BLOCKS,
  blockKind,
  checkDocument,
  checkNode,
  createBand,
  createBlock,
  createColumn,
  createDocument,
  labelOf,
  textsOf,
} from "./index.ts";
import { bandControls, newBand } from "./layout.ts";

let n = 0;
const id = () => `k${++n}`;
const context: BlockContext = {
  node: "node",
  theme: STANDARD_THEME,
  lang: "en-GB",
  width: 544,
  brand: { name: "Larkmoor", postalAddress: "Brook Lane 7" },
  publicAddress: "",
  pictures: new Map(),
  dir: "ltr",
  children: [],
  fills: false,
  titles: () => [],
  itemsHere: () => null,
  design: () => ({ html: { segments: [] }, text: [] }),
  text: () => ({ segments: [] }),
  item: () => ({ mark: { segments: [] }, ctx: context }),
  block: () => ({ html: { segments: [] }, text: { when: null, text: { segments: [] } } }),
};

describe.each(BLOCKS.map((kind) => [kind.type, kind] as const))("a new %s", (type, kind) => {
  const node = createBlock(type, id);

  it("is valid, and is listed under its own name", () => {
    expect(checkNode(node).props).toEqual(node.props);
    expect(blockKind(type)).toBe(kind);
    expect(labelOf(node)).toBe(kind.label);
  });
  it("renders to HTML", () => {
    const html = kind.html(kind.create(), context).segments;
    expect(html.length).toBeGreaterThan(0);
    expect(kind.text(kind.create(), context).segments).toBeDefined();
  });
  it("has settings that lead to its properties", () => {
    for (const control of [...kind.content, ...kind.style]) {
      if (control.control === "onSheet") continue;
      expect({ label: control.label, value: valueAt(node.props, control.path) }).not.toEqual({
        label: control.label,
        value: undefined,
      });
      if (control.control === "choice") {
        const values = control.options.map((option) => option.value);
        expect(values).toContain(valueAt(node.props, control.path));
      }
    }
  });
  it("keeps its texts where it says, in the kind it says", () => {
    for (const { path, kind: textKind } of textsOf(type)) {
      const text = valueAt(node.props, path) as unknown as TextJson;
      expect(parseText(text, textKind).type.name).toBe(textKind);
    }
  });
  it("refuses properties that are not its own", () => {
    const wrong = { ...node, props: { ...node.props, onclick: "x" } };
    expect(() => checkNode(wrong)).toThrow(EditError);
    const box = { ...(node.props.box as object), background: "red" };
    expect(() => checkNode({ ...node, props: { ...node.props, box } as never })).toThrow(
      kind.label,
    );
  });
});

it("block types are listed once", () => {
  expect(new Set(BLOCKS.map((kind) => kind.type)).size).toBe(BLOCKS.length);
});

it("a band's settings lead to its properties", () => {
  for (const control of bandControls) {
    if (control.control !== "onSheet") {
      expect(valueAt(newBand() as never, control.path)).not.toBeUndefined();
    }
  }
});

describe("checking a document", () => {
  const document = createDocument([createBand(id, [createColumn(id, [createBlock("text", id)])])]);
  it("takes a whole one", () => expect(() => checkDocument(document)).not.toThrow());
  it("names an unknown block type", () => {
    const odd = { id: "odd", type: "carousel", props: {}, children: [] };
    expect(() =>
      checkDocument(createDocument([createBand(id, [createColumn(id, [odd])])])),
    ).toThrow("There is no block type “carousel”.");
  });
  it("refuses things in wrong places", () => {
    const loose = createDocument([createBlock("text", id)]);
    expect(() => checkDocument(loose)).toThrow("cannot stand in");
    const noEmail = {
      schemaVersion: SCHEMA_VERSION,
      root: createBlock("text", id),
    } as EmailDocument;
    expect(() => checkDocument(noEmail)).toThrow("not an email");
  });
});
