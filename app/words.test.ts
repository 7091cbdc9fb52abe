import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import ts from "typescript";
import { expect, it } from "vitest";
import { BLOCKS, GROUPS, nodeKind } from "#core/blocks/index.ts";
import { KEYS } from "./compose/keys/list.ts";

/** Words that labels do not use, by the table in docs/words.md: whole words, whatever the case. */
const AVOIDED = [
  "ground",
  "picture",
  "room in cells",
  "letters apart",
  "words run",
  "leads to",
  "set in",
  "set out",
  "raised",
  "see-through",
  "sign",
  "held back",
  "taken in",
  "arrived",
  "set to leave",
  "gone out",
  "reading as",
  "spread",
];
const avoided = new RegExp(`(^|[^\\p{L}])(${AVOIDED.join("|")})s?([^\\p{L}-]|$)`, "iu");

/** Every label in what a block kind declares; its schema says nothing to people. */
function labelsIn(value: unknown, found: string[] = []): string[] {
  if (Array.isArray(value)) for (const one of value) labelsIn(one, found);
  else if (typeof value === "object" && value !== null) {
    for (const [key, inner] of Object.entries(value)) {
      if (key === "label" && typeof inner === "string") found.push(inner);
      else if (key !== "schema") labelsIn(inner, found);
    }
  }
  return found;
}

it("labels of blocks and their settings are the trade's words", () => {
  const labels = [
    ...Object.values(GROUPS),
    ...BLOCKS.flatMap((kind) => [kind.label, ...labelsIn(nodeKind(kind.type))]),
  ];
  expect(labels.length).toBeGreaterThan(150);
  expect([...new Set(labels)].filter((label) => avoided.test(label))).toEqual([]);
});

/** What no sentence of the interface says, from the same table; the single words above have other senses there. */
const PHRASES = [
  "room in cells",
  "letters apart",
  "words run",
  "held back",
  "taken in",
  "set to leave",
  "reading as",
  "standing still",
  "keeps to",
  "make loose",
  "put in its place",
  "good until",
  "nobody is like that",
];
const phrases = new RegExp(`\\b(${PHRASES.join("|")})\\b`, "i");

/** The words between tags, and every text in quotes, of a source. */
function sentencesIn(file: string): string[] {
  const source = ts.createSourceFile(file, readFileSync(file, "utf8"), ts.ScriptTarget.Latest);
  const found: string[] = [];
  const visit = (node: ts.Node) => {
    if (ts.isJsxText(node) || ts.isStringLiteralLike(node)) {
      found.push(node.text.replace(/\s+/g, " "));
    } else if (ts.isTemplateExpression(node)) {
      found.push(
        [node.head, ...node.templateSpans.map(({ literal }) => literal)]
          .map(({ text }) => text)
          .join("…"),
      );
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

const files = readdirSync("app", { recursive: true, encoding: "utf8" })
  .filter((name) => /\.tsx?$/.test(name) && !/\.test\./.test(name))
  .map((name) => join("app", name));

it("no sentence of the interface says what has another word", () => {
  expect(files.length).toBeGreaterThan(300);
  const found = files.flatMap((file) =>
    sentencesIn(file)
      .filter((words) => phrases.test(words))
      .map((words) => `${file}: ${words}`),
  );
  expect(found).toEqual([]);
});

it("one message is no “1 messages”: a number and what it counts are said by `counted`", () => {
  const plural = /\{count\([^{}]*\)\} [a-z]+s\b/;
  expect(files.filter((file) => plural.test(readFileSync(file, "utf8")))).toEqual([]);
});

it("the glossary names each word that is not used", () => {
  const page = readFileSync("docs/words.md", "utf8");
  for (const word of [...AVOIDED, ...PHRASES])
    expect(page).toMatch(new RegExp(`\\| [^|]*\\b${word}`, "i"));
});

it("keys have names that people know", () => {
  for (const { keys } of KEYS) {
    for (const name of keys.split(", ")) {
      expect(name).toMatch(
        /^(Mod\+)?(Alt\+)?(Shift\+)?([a-z]|Arrow(Up|Down|Left|Right)|Enter|Escape|Space|Delete|Backspace)$/,
      );
    }
  }
});
