import { describe, expect, it } from "vitest";
import { apply, editSchema, find, migrateEdit, SCHEMA_VERSION } from "../document/index.ts";
import { canonical, type Json } from "../json.ts";
import { emailOf, ids } from "../testing/rendered.ts";
import { createBlock } from "./index.ts";
import { readDocument } from "./read.ts";

const box = {
  background: null,
  padding: { top: 8, right: 28, bottom: 8, left: 28 },
  align: "start",
  alignNarrow: null,
};
const words = {
  type: "doc",
  content: [{ type: "paragraph", content: [{ type: "text", text: "Hi" }] }],
};
const phrase = { type: "phrase", content: [{ type: "text", text: "Title" }] };
const line = { type: "line" };
interface Old {
  id: string;
  type: string;
  props: Record<string, unknown>;
  children: Old[];
}
const node = (
  id: string,
  type: string,
  props: Record<string, unknown>,
  children: Old[] = [],
): Old => ({ id, type, props, children });

/** A document as version 1 wrote it. */
const versionOne = {
  schemaVersion: 1,
  root: node(
    "email",
    "email",
    {
      lang: "en-GB",
      width: 600,
      theme: {
        name: "Old",
        colours: {
          ground: "#f2eee6",
          sheet: "#ffffff",
          tint: "#f5efe6",
          ink: "#26302b",
          quiet: "#5f675f",
          accent: "#1f3d2e",
          onAccent: "#ffffff",
          line: "#d9d2c4",
        },
        fonts: { heading: "bookSerif", body: "plainSans" },
        type: { body: 16, heading1: 28, heading2: 22, heading3: 18 },
        corner: 4,
      },
      envelope: { fromName: line, fromAddress: "", replyTo: "", subject: line, preview: line },
    },
    [
      node(
        "band",
        "band",
        {
          name: "Old",
          background: null,
          fullWidth: false,
          padding: box.padding,
          onNarrow: "stack",
          valign: "top",
          show: "both",
        },
        [
          node("column", "column", { share: 1 }, [
            node("text", "text", {
              box,
              show: "both",
              words,
              size: 18,
              colour: "ink",
              linkColour: "accent",
            }),
            node("heading", "heading", {
              box,
              show: "both",
              words: phrase,
              level: 1,
              colour: "accent",
            }),
            node("image", "image", {
              box,
              show: "both",
              picture: null,
              alt: line,
              decorative: false,
              to: { kind: "none" },
              share: 100,
              corner: 0,
            }),
          ]),
        ],
      ),
    ],
  ),
};

describe("a stored document", () => {
  it("of this version is read as it is", () => {
    const doc = emailOf([createBlock("text", ids())]);
    expect(readDocument(canonical(doc as unknown as Json))).toEqual({ doc, trouble: null });
  });

  it("of version 1 is migrated: nothing looks different", () => {
    const { doc, trouble } = readDocument(JSON.stringify(versionOne));
    expect(trouble).toBeNull();
    expect(doc.schemaVersion).toBe(SCHEMA_VERSION);
    expect(doc.root.props.theme).toMatchObject({ name: "Old", dark: null });
    expect(find(doc, "text")!.node.props).toMatchObject({
      words,
      plain: null,
      type: { size: 18, font: null },
      box: { padding: box.padding, border: { width: 0 } },
    });
    expect(find(doc, "text")!.node.props).not.toHaveProperty("size");
  });

  it("of a newer version is shown as far as it goes, with the reason", () => {
    const doc = emailOf([createBlock("text", () => "text")]);
    const [band] = doc.root.children;
    const newer = {
      schemaVersion: 99,
      root: {
        ...doc.root,
        children: [
          band,
          { id: "b2", type: "hologram", props: {}, children: [] },
          { id: "b3", type: "hologram", props: {}, children: [] },
        ],
      },
    };
    const read = readDocument(JSON.stringify(newer));
    expect(read.trouble!.state).toBe("newer");
    expect(read.trouble!.reason).toContain("version 99");
    expect(read.trouble!.lost).toEqual(["2 × hologram"]);
    expect(find(read.doc, "text")).not.toBeNull();
  });

  it("that is damaged is shown as far as it can be read", () => {
    const doc = emailOf([
      createBlock("text", () => "good"),
      createBlock("heading", () => "bad", { level: 9 }),
      createBlock("text", () => "good"),
    ]);
    const damaged = { ...doc, root: { ...doc.root, props: { ...doc.root.props, width: "wide" } } };
    const read = readDocument(JSON.stringify(damaged));
    expect(read.trouble).toMatchObject({
      state: "damaged",
      lost: ["the email’s width", "Heading", "Text"],
    });
    expect(read.doc.root.props.width).toBe(600);
    expect(find(read.doc, "good")).not.toBeNull();
    expect(find(read.doc, "bad")).toBeNull();
  });

  it("with pieces that have no name, or no kind, is damaged: they are counted and left out", () => {
    const doc = emailOf([createBlock("text", () => "good")]);
    const [band] = doc.root.children;
    const odd = [{ ...band, id: 7 }, { ...band, type: undefined }, "words", null];
    const damaged = { ...doc, root: { ...doc.root, children: [band, ...odd] } };
    const read = readDocument(JSON.stringify(damaged));
    expect(read.trouble).toMatchObject({
      state: "damaged",
      lost: ["4 × a piece without a name"],
    });
    expect(read.doc.root).toEqual(doc.root);
  });

  it("with one id given twice is damaged: the second piece is left out", () => {
    const doc = emailOf([createBlock("text", () => "twice"), createBlock("spacer", () => "twice")]);
    const read = readDocument(canonical(doc as unknown as Json));
    expect(read.trouble).toMatchObject({ state: "damaged", lost: ["Spacer"] });
    expect(find(read.doc, "twice")!.node.type).toBe("text");
  });

  it.each(["", "null", "[]", "{", '{"schemaVersion":0}', '{"schemaVersion":2,"root":7}'])(
    "that is no document at all (%s) is an empty one that cannot be changed",
    (body) => {
      const { doc, trouble } = readDocument(body);
      expect(trouble!.state).toBe("damaged");
      expect(doc.root.children).toEqual([]);
    },
  );
});

describe("an edit made in version 1", () => {
  const { doc } = readDocument(JSON.stringify(versionOne));
  const now = (edit: object) =>
    editSchema.parse(migrateEdit(edit as Json, 1, (id) => find(doc, id)?.node.type));

  it("that put a block in puts one of this version in", () => {
    const [text] = versionOne.root.children[0]!.children[0]!.children;
    const edit = { type: "insert", parent: "column", after: null, node: { ...text, id: "again" } };
    const after = apply(doc, now({ type: "group", edits: [edit] }));
    expect(find(after, "again")!.node.props).toEqual(find(doc, "text")!.node.props);
  });
  it("that set a size or a theme sets it where it is now", () => {
    const after = apply(doc, now({ type: "set", node: "text", path: ["size"], value: 20 }));
    expect(find(after, "text")!.node.props.type).toMatchObject({ size: 20 });
    const theme = now({
      type: "set",
      node: "email",
      path: ["theme"],
      value: versionOne.root.props.theme,
    });
    expect(apply(doc, theme).root.props.theme).toEqual(doc.root.props.theme);
    const other = { type: "set", node: "text", path: ["colour"], value: "quiet" };
    expect(now(other)).toEqual(other);
  });
});
