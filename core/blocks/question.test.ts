import { describe, expect, it } from "vitest";
import { createItem } from "../kinds/item.ts";
import { blockAlone, emailOf, ids } from "../testing/rendered.ts";
import { line } from "../text/index.ts";
import { createBlock, itemKind } from "./index.ts";
import { questionOf, questionsIn } from "./question.ts";

const answers = (...words: string[]) => {
  const newId = ids("answer");
  return words.map((label) =>
    createItem(itemKind("question.answer")!, newId, { label: line(label) }),
  );
};
const reader = { values: {}, token: "abc" };

describe("a question", () => {
  const children = answers("No", "A little", "Yes");
  it("leads from each answer to its page, by its own address, in both versions", () => {
    const { html, text } = blockAlone("question", {}, { children, reader });
    for (const { id } of children) {
      expect(html).toContain(`href="https://mail.example.org/q/abc/${id}"`);
      expect(text).toContain(`https://mail.example.org/q/abc/${id}`);
    }
    expect(text).toContain("Was this of use to you?");
    expect(html).not.toContain("Thank you");
  });

  it("shows stars, and faces from sad to glad, each with its words read aloud", () => {
    const stars = blockAlone("question", { look: "stars" }, { children, reader }).html;
    expect(stars.match(/★/g)).toHaveLength(3);
    expect(stars).toContain('aria-label="A little"');
    const faces = blockAlone("question", { look: "faces" }, { children, reader }).html;
    expect([...faces.matchAll(/😞|😐|😀/gu)].map(([face]) => face)).toEqual(["😞", "😐", "😀"]);
  });

  it("is found by its answers, and with all others of an email", () => {
    const newId = ids("q");
    const block = createBlock("question", newId, { asks: line("Which?") });
    const email = emailOf([createBlock("text", newId), block]);
    const [first] = block.children;
    expect(questionOf(email, first!.id)).toEqual(questionsIn(email)[0]);
    expect(questionsIn(email)).toEqual([
      expect.objectContaining({ id: block.id, asks: "Which?", wantsWords: true }),
    ]);
    expect(questionsIn(email)[0]!.answers.map(({ words }) => words)).toEqual([
      "Not really",
      "Somewhat",
      "Very much",
    ]);
    expect(questionOf(email, block.id)).toBeNull();
    expect(questionOf(email, "nobody")).toBeNull();
  });

  it("is looked at: one that asks nothing, an answer without words", () => {
    expect(itemKind("question.answer")!.checks!({ label: line(" ") }, {} as never)).toHaveLength(1);
  });
});
