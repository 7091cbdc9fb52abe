import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../../blocks/index.ts";
import { canonical } from "../../json.ts";
import { doc, mergeable } from "../../text/index.ts";
import { apply, type Edit, moveOver } from "../index.ts";
import { find } from "../lookup.ts";

const start = createDocument([
  createBand(
    () => "band",
    [
      createColumn(
        () => "column",
        ["a", "b"].map((id) => createBlock("text", () => id, { words: doc("one two three") })),
      ),
    ],
  ),
]);
const put = (at: number, text: string, to = at) => ({
  stepType: "replace",
  from: at,
  to,
  ...(text && { slice: { content: [{ type: "text", text }] } }),
});
const write = (...steps: object[]): Edit & { type: "text" } => ({
  type: "text",
  node: "a",
  path: ["words"],
  steps: steps as never,
});
const textOf = (document: typeof start) =>
  /"text":"([^"]*)"/.exec(JSON.stringify(find(document, "a")!.node.props.words))?.[1];
/** Edits of one's own over one that was stored first, and the texts that cannot be joined. */
const mergeOver = (mine: Edit[], other: Edit) => {
  const own = mine.map((edit) => ({ edit, yields: false }));
  const { edits, unmerged } = moveOver(start, own, [{ edit: other, takesBack: [] }]);
  return { edits, unmerged: unmerged.map(({ node, path }) => ({ node, path })) };
};
const merged = (mine: Edit[], other: Edit) => {
  const { edits, unmerged } = mergeOver(mine, other);
  const after = edits.reduce(
    (state, edit) => (edit ? apply(state, edit) : state),
    apply(start, other),
  );
  return { text: textOf(after), unmerged };
};

describe("two people in one text", () => {
  it("are joined where they wrote in different places, through edits that build on each other", () => {
    const mine = [write(put(1, "Oh, ")), write(put(5, "dear "), put(1, "", 2))];
    expect(merged(mine, write(put(14, "!")))).toEqual({
      text: "h, dear one two three!",
      unmerged: [],
    });
    expect(merged([write(put(14, "!"))], write(put(1, "", 5)))).toMatchObject({
      text: "two three!",
    });
    expect(merged([write(put(5, "x"))], write(put(5, "y")))).toMatchObject({ unmerged: [] });
  });
  it("are told apart where one replaced what the other wrote in or replaced", () => {
    const clash = [{ node: "a", path: ["words"] }];
    expect(merged([write(put(1, "new", 14))], write(put(5, "x")))).toEqual({
      text: "one xtwo three",
      unmerged: clash,
    });
    expect(merged([write(put(5, "x"))], write(put(1, "new", 14)))).toMatchObject({
      unmerged: clash,
    });
    expect(merged([write(put(3, "", 6))], write(put(5, "", 9)))).toMatchObject({ unmerged: clash });
    expect(mergeOver([write(put(1, "x"))], { type: "remove", node: "a" }).unmerged).toEqual(clash);
    const set: Edit = { type: "set", node: "a", path: ["words"], value: doc("y") as never };
    expect(mergeOver([write(put(1, "x"))], set).unmerged).toEqual(clash);
  });
  it("leave each other's other changes alone", () => {
    const size: Edit = { type: "set", node: "b", path: ["type", "size"], value: 20 };
    const group: Edit = { type: "group", edits: [size, write(put(5, "x"))] as never };
    const over = mergeOver([group], write(put(1, "new", 14)));
    expect(over.edits).toEqual([{ type: "group", edits: [size] }]);
    expect(mergeOver([size], write(put(1, "x"))).edits).toEqual([size]);
  });
  it("come to the same text whoever is first, unless they wrote at the same spot", () => {
    const step = fc
      .tuple(
        fc.integer({ min: 1, max: 14 }),
        fc.integer({ min: 0, max: 4 }),
        fc.constantFrom("", "x", "yz"),
      )
      .map(([at, length, text]) => put(at, text, Math.min(14, at + length)))
      .filter((one) => one.from !== one.to || one.slice !== undefined);
    fc.assert(
      fc.property(step, step, (a, b) => {
        if (!mergeable([{ steps: [a] as never, yields: false }], [b] as never)) {
          expect(mergeOver([write(a)], write(b)).unmerged).toHaveLength(1);
          return;
        }
        if (a.from === b.from || a.to === b.to || a.from === b.to || b.from === a.to) return;
        const one = apply(apply(start, write(b)), mergeOver([write(a)], write(b)).edits[0]!);
        const two = apply(apply(start, write(a)), mergeOver([write(b)], write(a)).edits[0]!);
        expect(canonical(one)).toBe(canonical(two));
      }),
      { numRuns: 500 },
    );
  });
});
