import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { canonical } from "../json.ts";
import { docArbitrary } from "../testing/arbitrary-texts.ts";
import {
  applySteps,
  doc,
  findWords,
  line,
  type Query,
  replaceFound,
  type TextJson,
  tag,
} from "./index.ts";

const query = (words: string, rest: Partial<Query> = {}): Query => ({
  words,
  exact: false,
  whole: false,
  ...rest,
});
const replaced = (text: TextJson, words: string, by: string, rest: Partial<Query> = {}) =>
  canonical(applySteps(text, replaceFound(text, findWords(text, query(words, rest)), by)) as never);

describe("finding", () => {
  it("finds words in paragraphs and lines, whatever their case, unless it is asked for", () => {
    const text = doc("Seeds and more seeds.", "No SEED here? Seeds!");
    expect(findWords(text, query("seeds"))).toHaveLength(3);
    expect(findWords(text, query("Seeds", { exact: true }))).toHaveLength(2);
    expect(findWords(text, query("seed", { whole: true }))).toHaveLength(1);
    expect(findWords(line("Öl und öl"), query("ÖL"))).toHaveLength(2);
    expect(findWords(text, query(""))).toEqual([]);
  });
  it("does not find words across a tag or a paragraph", () => {
    const text = line("Dear ", tag("contact:name"), ", hello");
    expect(findWords(text, query("Dear ,"))).toEqual([]);
    expect(findWords(text, query("hello"))).toEqual([{ from: 8, to: 13 }]);
    expect(findWords(doc("one", "two"), query("onetwo"))).toEqual([]);
  });
  it("takes letters whose small form is longer as they are", () => {
    expect(findWords(line("İstanbul"), query("stanbul"))).toEqual([{ from: 1, to: 8 }]);
  });
});

describe("replacing", () => {
  it("keeps marks and everything else", () => {
    const bold: TextJson = {
      type: "doc",
      content: [
        {
          type: "paragraph",
          content: [
            { type: "text", text: "see " },
            { type: "text", text: "the seeds", marks: [{ type: "strong" }] },
            { type: "text", text: " now" },
          ],
        },
      ],
    };
    expect(replaced(bold, "seeds", "bulbs")).toBe(
      canonical(bold as never).replace("seeds", "bulbs"),
    );
    expect(replaced(doc("a b a b"), "a", "")).toBe(canonical(doc(" b  b") as never));
    expect(replaced(doc("aaaa"), "aa", "b")).toBe(canonical(doc("bb") as never));
  });
  it("leaves nothing of the words to be found, where the new ones do not hold them", () => {
    fc.assert(
      fc.property(docArbitrary, fc.constantFrom("a", "e ", "t", "—"), (text, words) => {
        const found = findWords(text, query(words, { exact: true }));
        const after = applySteps(text, replaceFound(text, found, "§"));
        expect(findWords(after, query("§", { exact: true })).length).toBeGreaterThanOrEqual(
          found.length,
        );
        expect(findWords(after, query(words, { exact: true }))).toEqual([]);
      }),
    );
  });
});
