import fc from "fast-check";
import { expect, it } from "vitest";
import { createBlock } from "#core/blocks/index.ts";
import { apply, type DocNode, type EmailDocument } from "#core/document/index.ts";
import { documentArbitrary } from "#core/testing/arbitrary-documents.ts";
import { emailOf, ids } from "#core/testing/rendered.ts";
import { doc, line, paragraph, type Query, tag, wordsOf } from "#core/text/index.ts";
import { matchesIn, replaceEdits } from "./find.ts";

const id = ids("f");
const query = (words: string): Query => ({ words, exact: false, whole: false });
const editsOf = (email: EmailDocument, from: string, to: string, held = false) =>
  replaceEdits(email, matchesIn(email, query(from)), to, { held });
const replaced = (email: EmailDocument, from: string, to: string, held = false) =>
  editsOf(email, from, to, held).edits.reduce(apply, email);
const places = (...blocks: DocNode[]) =>
  matchesIn(emailOf(blocks), query("brook")).map(({ node, path }) => `${node} ${path.join(".")}`);

it("finds words wherever they are written, in the order of the email", () => {
  const text = createBlock("text", () => "text", {
    words: doc(paragraph("By the brook, ", tag("contact:name"), "; the Brook is high.")),
  });
  const button = createBlock("button", () => "button", { label: line("To the brook") });
  expect(places(text, button)).toEqual(["text words", "text words", "button label"]);
  expect(matchesIn(emailOf([text]), query(""))).toEqual([]);
});

it("passes over what a part has switched off, and what stands in it", () => {
  const second = { second: line("Brook") };
  expect(places(createBlock("button", () => "b", second))).toEqual([]);
  expect(places(createBlock("button", () => "b", { ...second, parts: { second: true } }))).toEqual([
    "b second",
  ]);
  const masthead = (links: boolean) => {
    const made = createBlock("masthead", () => "m");
    const [first] = made.children;
    const children = [
      { ...first!, id: "link", props: { ...first!.props, label: line("Brook") as never } },
    ];
    const parts = { ...(made.props.parts as object), links };
    return { ...made, props: { ...made.props, parts }, children };
  };
  expect(places(masthead(false))).toEqual([]);
  expect(places(masthead(true))).toEqual(["link label"]);
});

it("puts other words in every place of a text at once, whatever else stands there", () => {
  const words = doc(paragraph("brook brook ", tag("contact:name"), " brook"));
  const email = emailOf([createBlock("text", id, { words })]);
  expect(matchesIn(replaced(email, "brook", "pond"), query("pond"))).toHaveLength(3);
  expect(matchesIn(replaced(email, "brook", ""), query("brook"))).toEqual([]);
  // What is put in may hold what was looked for: it is not looked through again.
  const twice = replaced(email, "brook", "brook by the brook");
  expect(matchesIn(twice, query("brook"))).toHaveLength(6);
});

it("leaves what is linked or held as it is, says how often and why, and replaces the rest", () => {
  const text = (words: string, more: object = {}) =>
    createBlock("text", id, { words: doc(paragraph(words)), ...more });
  const email = emailOf([
    text("brook one"),
    text("brook brook", { linked: { saved: "s" } }),
    text("brook three", { hold: "fixed" }),
    text("brook four", { hold: "text" }),
  ]);
  const stay = (held: boolean) =>
    matchesIn(replaced(email, "brook", "pond", held), query("brook")).map(
      ({ text }) => /brook( \w+)?/.exec(JSON.stringify(text))?.[0],
    );
  expect(stay(false)).toEqual(["brook brook", "brook brook"]);
  expect(stay(true)).toEqual(["brook brook", "brook brook", "brook three"]);
  expect(editsOf(email, "brook", "pond")).toMatchObject({
    kept: 2,
    why: expect.stringContaining("it is linked"),
  });
  expect(editsOf(email, "brook", "pond", true).kept).toBe(3);
  expect(editsOf(email, "three", "3", true)).toMatchObject({
    ...{ edits: [], kept: 1, why: expect.stringContaining("its template holds it") },
  });
  expect(editsOf(email, "nowhere", "x", true)).toEqual({ edits: [], kept: 0, why: null });
});

it("changes nothing but the words, in any email", () => {
  fc.assert(
    fc.property(documentArbitrary, fc.constantFrom("a", "e", "walk", "."), (email, words) => {
      const before = matchesIn(email, query(words));
      const after = replaced(email, words, "§§");
      expect(matchesIn(after, query("§§"))).toHaveLength(before.length);
      const back = replaced(after, "§§", words);
      for (const [i, match] of matchesIn(back, query(words)).entries()) {
        expect(wordsOf(match.text).length).toBe(wordsOf(before[i]!.text).length);
      }
    }),
    { numRuns: 40 },
  );
});
