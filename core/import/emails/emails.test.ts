/** Forty emails in foreign styles: what each becomes, and what of it is kept. */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { type DocNode, isBlock } from "../../document/index.ts";
import { keptOf, taking } from "../../testing/foreign.ts";
import { readForeign, takeApart } from "./index.ts";

const FOLDER = "fixtures/emails";
interface Expected {
  readonly outline: string;
  readonly tags?: readonly string[];
  readonly preview?: string;
  readonly page?: boolean;
}
const expected: Record<string, Expected> = JSON.parse(
  readFileSync(join(FOLDER, "expected.json"), "utf8"),
);

const read = (name: string) =>
  readForeign(readFileSync(join(FOLDER, `${name}.html`), "utf8"), "", expected[name]!.page);
/** The blocks of an email in reading order, columns in brackets. */
function outlineOf(root: DocNode): string {
  const blocksIn = (node: DocNode) =>
    node.children
      .filter(({ type }) => isBlock(type))
      .map(({ type }) => type)
      .join(" ");
  return root.children
    .map((band) =>
      band.children.length === 1
        ? blocksIn(band.children[0]!)
        : `[${band.children.map(blocksIn).join(" | ")}]`,
    )
    .join(" ");
}

const names = readdirSync(FOLDER)
  .filter((name) => name.endsWith(".html"))
  .map((name) => name.slice(0, -5));

describe("a foreign email", () => {
  it.each(names)("%s becomes what it shows", (name) => {
    const { outline, tags = [], preview } = expected[name]!;
    const foreign = read(name);
    const taken = takeApart(foreign, taking());
    expect(outlineOf(taken.doc.root)).toBe(outline);
    expect(foreign.tags.map((tag) => tag.name).sort()).toEqual([...tags].sort());
    if (preview) expect(JSON.stringify(taken.doc.root.props.envelope)).toContain(preview);
  });
  it("keeps its words, links and images", () => {
    for (const name of names) {
      const foreign = read(name);
      const { kept } = keptOf(foreign);
      for (const what of ["words", "links", "images"] as const) {
        const [some, all] = kept[what];
        expect([name, what, some]).toEqual([name, what, all]);
      }
    }
  });
});
