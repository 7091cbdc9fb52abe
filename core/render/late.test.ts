import { afterEach, expect, it, vi } from "vitest";
import { cleaner } from "#html-cleaner";
import { createBlock, isWhole, lateIn } from "../blocks/index.ts";
import { emailOf, rendered } from "../testing/rendered.ts";

afterEach(() => vi.restoreAllMocks());

const own = () => createBlock("html", () => "own", { source: "<p>Seeds of <b>sorrel</b></p>" });
const heading = createBlock("heading", () => "head");

it.each([
  ["alone", () => emailOf([heading, own()])],
  ["in a card", () => emailOf([createBlock("card", () => "card", {}, [own()]), heading])],
])("what cannot be rendered yet is empty, and made when it can: %s", (_, make) => {
  const doc = make();
  const now = vi.spyOn(cleaner, "now").mockReturnValue(null);
  expect([...lateIn(doc.root)].map(({ node }) => node.id)).toEqual(["own"]);
  expect(isWhole(doc.root)).toBe(false);
  const early = rendered(doc);
  expect(early.html + early.text).not.toContain("sorrel");
  expect(early.html).toContain("heading");
  now.mockRestore();
  expect(isWhole(doc.root)).toBe(true);
  // The same email with the same surroundings: nothing of what was empty is kept.
  const { html, text } = rendered(doc);
  expect(html).toContain("<b>sorrel</b>");
  expect(text).toContain("sorrel");
});
