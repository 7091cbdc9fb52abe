/** Files between one Septima and another: what is written is read back, and nothing else is taken. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { SCHEMA_VERSION } from "../document/index.ts";
import { documentArbitrary } from "../testing/arbitrary-documents.ts";
import { PICTURE } from "../testing/rendered.ts";
import { SHIPPED_THEMES } from "../theme/shipped.ts";
import { type EmailFile, fileJsonSchema, readFile, writeFile } from "./index.ts";

const file = (doc: EmailFile["doc"]): EmailFile => ({
  ...{ kind: "template", name: "Spring", about: "A letter", category: "letters", doc },
  pictures: [{ id: PICTURE, name: "Rose", type: "image/png", base64: "iVBORw==" }],
  fonts: [{ id: PICTURE, base64: "d09GMg==" }],
  files: [{ file: `${PICTURE}.pdf`, name: "The plan.pdf", base64: "JVBERi0=" }],
});

it("reads any email back as it was written", () => {
  fc.assert(
    fc.property(documentArbitrary, (doc) => {
      expect(readFile(writeFile(file(doc)))).toEqual(file(doc));
    }),
    { numRuns: 60 },
  );
});

it("reads saved blocks back, with what they are", () => {
  const [doc] = fc.sample(documentArbitrary, 1) as [EmailFile["doc"]];
  for (const of of ["band", "block"] as const) {
    const saved: EmailFile = { ...file(doc), kind: "saved", about: "", category: "", of };
    expect(readFile(writeFile(saved))).toEqual(saved);
  }
  const { of: _, ...without } = JSON.parse(
    writeFile({ ...file(doc), kind: "saved", of: "band" }),
  ) as { of: string };
  expect(readFile(JSON.stringify(without))).toEqual({
    problem: "This file is damaged: of cannot be read.",
  });
});

it("reads files of the first version, which carried neither fonts nor linked files", () => {
  const [doc] = fc.sample(documentArbitrary, 1) as [EmailFile["doc"]];
  const { fonts: _, files: __, ...first } = JSON.parse(writeFile(file(doc))) as EmailFile;
  expect(readFile(JSON.stringify({ ...first, version: 1 }))).toEqual({
    ...file(doc),
    ...{ fonts: [], files: [] },
  });
});

it("reads themes back", () => {
  for (const theme of Object.values(SHIPPED_THEMES)) {
    const file = { kind: "theme", theme, fonts: [{ id: PICTURE, base64: "d09GMg==" }] } as const;
    expect(readFile(writeFile(file))).toEqual(file);
  }
});

describe("what is no file, or not of this version", () => {
  const [doc] = fc.sample(documentArbitrary, 1) as [EmailFile["doc"]];
  const changed = (change: object) =>
    readFile(JSON.stringify({ ...JSON.parse(writeFile(file(doc))), ...change }));
  const problem = (read: object) => (read as { problem: string }).problem;
  it("is refused with a sentence", () => {
    expect(problem(readFile("PK\u0003"))).toBe("This is not a file of Septima.");
    expect(problem(readFile('{"a":1}'))).toBe("This is not a file of Septima.");
    expect(problem(readFile('{"septima":"__proto__","version":1}'))).toBe(
      "This is not a file of Septima.",
    );
    expect(problem(changed({ version: 9 }))).toContain("newer Septima (version 9");
    expect(problem(changed({ name: "" }))).toBe("This file is damaged: name cannot be read.");
    expect(problem(changed({ more: 1 }))).toContain("damaged");
  });
  it("says so where the email in it is newer or damaged", () => {
    const newer = { ...doc, schemaVersion: SCHEMA_VERSION + 1 };
    expect(problem(changed({ document: newer }))).toContain("newer Septima");
    const root = { ...doc.root, children: [{ id: "x", type: "text", props: {}, children: [] }] };
    expect(problem(changed({ document: { ...doc, root } }))).toContain("damaged");
  });
});

it("says in its schema what each type of node holds", () => {
  const { $defs } = fileJsonSchema() as {
    $defs: Record<string, { properties: { type: unknown } }>;
  };
  expect($defs["node.heading"]!.properties.type).toEqual({ const: "heading" });
  expect(JSON.stringify($defs)).not.toContain('"$schema"');
});
