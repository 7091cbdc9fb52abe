import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { docArbitrary } from "../testing/arbitrary-texts.ts";
import { applySteps, doc, docSchema, line, lineSchema, type TextJson, tag } from "./index.ts";
import { plainLine } from "./line.ts";
import { NOTHING_TYPED, type Typed, typedSteps } from "./typed.ts";

const typedInto = (text: TextJson, typed: Partial<Typed>) =>
  applySteps(text, typedSteps(text, { ...NOTHING_TYPED, ...typed }));
const said = (text: TextJson) => plainLine(text, ({ ref }) => `[${ref}]`);

describe("what was typed into a line before it could be written in", () => {
  it.each([
    ["an empty one", line(), "Seeds"],
    ["words with a tag", line("For ", tag("contact:first_name"), " 🌿"), ", <b> {{ x }}"],
    ["a tag alone", line(tag("contact:first_name")), "!"],
  ])("stands behind all that is in %s, or in its place", (_, text, words) => {
    const behind = typedInto(text, { words });
    expect(said(behind)).toBe(said(text) + words);
    expect(lineSchema.safeParse(behind).success).toBe(true);
    expect(said(typedInto(text, { words, replaces: true }))).toBe(words);
    expect(said(typedInto(text, { replaces: true }))).toBe("");
  });
  it("is nothing where only all was selected", () => {
    expect(typedSteps(line("Seeds"), { ...NOTHING_TYPED, selects: true })).toEqual([]);
  });
});

it("goes into the last line of any text, or leaves one paragraph of it", () => {
  const letters = (text: TextJson): string =>
    text.type === "text" ? text.text! : (text.content ?? []).map(letters).join("");
  fc.assert(
    fc.property(docArbitrary, (text) => {
      const behind = typedInto(text, { words: "Seeds" });
      expect(letters(behind)).toBe(`${letters(text)}Seeds`);
      expect(docSchema.safeParse(behind).success).toBe(true);
      expect(typedInto(text, { words: "Seeds", replaces: true })).toEqual(doc("Seeds"));
      expect(docSchema.safeParse(typedInto(text, { replaces: true })).success).toBe(true);
    }),
  );
});
