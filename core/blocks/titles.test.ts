/** The titles of an email: which there are, in which order, for whom, and at which level. */
import { describe, expect, it } from "vitest";
import type { DocNode } from "../document/index.ts";
import { emailOf } from "../testing/rendered.ts";
import { phrase } from "../text/index.ts";
import { createBlock } from "./index.ts";
import { fittingLevel, sameTitles, titlesOf } from "./titles.ts";

const heading = (id: string, level: number, props: object = {}) =>
  createBlock("heading", () => id, { words: phrase(id), level, ...props } as never);
const titles = (...blocks: DocNode[]) => titlesOf(emailOf(blocks).root);
const seenBy = { type: "field", field: "kind", op: "is", argument: "Friend" };

describe("the titles of an email", () => {
  it("are its headings in reading order, but for those without words and those for narrow alone", () => {
    const found = titles(
      heading("one", 1),
      createBlock("text", () => "t"),
      heading("empty", 2, { words: phrase() }),
      heading("narrow", 2, { show: "narrow" }),
      heading("wide", 2, { show: "wide" }),
      heading("two", 3),
    );
    expect(found.map(({ node, level, when }) => [node.id, level, when])).toEqual([
      ["one", 1, null],
      ["wide", 2, null],
      ["two", 3, null],
    ]);
  });
  it("say for whom they are", () => {
    const [all, some] = titles(heading("all", 1), heading("some", 2, { seenBy }));
    expect(all!.when).toBeNull();
    expect(some!.when).toMatchObject({ all: [expect.stringContaining("Friend")], none: [] });
  });
});

describe("the level that fits a heading", () => {
  const of = (at: string, ...blocks: DocNode[]) =>
    fittingLevel(titles(...blocks), blocks.find(({ id }) => id === at)!);
  it("is the first for the first, and that of the one before it for the others, of which none is the email's own", () => {
    expect(of("a", heading("a", 3))).toBe(1);
    expect(of("b", heading("a", 1), heading("b", 4))).toBe(2);
    expect(of("c", heading("a", 1), heading("b", 3), heading("c", 1))).toBe(3);
    expect(of("b", heading("a", 2), heading("b", 2), heading("c", 4))).toBe(2);
  });
  it("of another block is the one under the heading before it", () => {
    const other = { ...createBlock("text", () => "t") };
    const at = titles(heading("a", 1), heading("b", 3));
    const under = [...at, { ...at[0]!, node: other, level: 9 }];
    expect(fittingLevel(under, other)).toBe(4);
    expect(fittingLevel([{ ...at[0]!, node: other }], other)).toBe(2);
  });
});

describe("two lists of titles", () => {
  const a = titles(heading("one", 1), heading("two", 2));
  const b = titles(heading("one", 1), heading("two", 2));
  it("are the same where each says the same of the same node", () => {
    expect(sameTitles(a, a)).toBe(true);
    expect(sameTitles(a, b)).toBe(true);
    expect(sameTitles([], [])).toBe(true);
  });
  it.each([
    ["one less", titles(heading("one", 1))],
    ["the other order", titles(heading("two", 2), heading("one", 1))],
    ["another level", titles(heading("one", 1), heading("two", 3))],
    ["other words", titles(heading("one", 1), heading("two", 2, { words: phrase("2") }))],
    ["for some", titles(heading("one", 1), heading("two", 2, { seenBy }))],
  ])("differ by %s", (_, other) => {
    expect(sameTitles(a, other)).toBe(false);
    expect(sameTitles(other, a)).toBe(false);
  });
});
