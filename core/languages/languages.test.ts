import fc from "fast-check";
import { expect, it } from "vitest";
import { checkDocument, createBlock } from "../blocks/index.ts";
import { readDocument } from "../blocks/read.ts";
import { apply, type EmailDocument } from "../document/index.ts";
import { canonical } from "../json.ts";
import { compile, conditionsOf } from "../render/index.ts";
import { RULES } from "../testing/arbitrary-conditions.ts";
import { documentArbitrary } from "../testing/arbitrary-documents.ts";
import { emailOf, rendered, SURROUNDINGS } from "../testing/rendered.ts";
import { doc, line } from "../text/index.ts";
import {
  inLanguage,
  languageFor,
  shownIn,
  stateOf,
  translatables,
  translating,
  translationCount,
} from "./index.ts";

const base = () =>
  emailOf(
    [
      createBlock("text", () => "words", { words: doc("Good morning") }),
      createBlock("button", () => "go", {
        label: line("Visit"),
        to: { kind: "web", address: line("https://larkmoor.example/en") },
      }),
      createBlock("footer", () => "foot"),
    ],
    { others: ["fr", "de"], languageField: "language" },
  );

/** Translates what stands at a path of a node. */
function translate(
  document: EmailDocument,
  node: string,
  path: string,
  value: unknown,
  lang = "fr",
) {
  const one = translatables(document).find(
    (found) => found.node.id === node && found.path.join(".") === path,
  )!;
  return apply(document, translating(one, lang, value as never));
}

it("reads an email in another language: words and links of its own, the rest as it is, system texts of the catalogue", () => {
  let document = translate(base(), "words", "words", doc("Bonjour"));
  document = translate(document, "go", "to", {
    kind: "web",
    address: line("https://larkmoor.example/fr"),
  });
  checkDocument(document);
  expect(readDocument(canonical(document))).toEqual({ doc: document, trouble: null });
  const french = rendered(inLanguage(document, "fr"));
  expect(french.html).toContain('<html lang="fr"');
  expect(french.text).toContain("Bonjour");
  expect(french.text).toContain("Visit: https://larkmoor.example/fr");
  expect(french.text).toContain("Se désabonner");
  expect(french.text).not.toContain("Good morning");
  expect(rendered(inLanguage(document, "de")).text).toContain("Good morning");
  expect(inLanguage(document, "en-GB")).toBe(document);
  expect(inLanguage(document, "es")).toBe(document);
  // The same nodes are the same objects again, so that nothing is rendered twice.
  expect(inLanguage(document, "fr").root.children).toEqual(
    inLanguage(document, "fr").root.children,
  );
});

it("knows what is missing and what has changed since it was translated", () => {
  const before = base();
  const all = translationCount(before, "fr");
  expect(all.missing).toBeGreaterThan(1);
  const document = translate(before, "words", "words", doc("Bonjour"));
  expect(translationCount(document, "fr")).toEqual({ ...all, missing: all.missing - 1 });
  const changed = apply(document, {
    type: "set",
    node: "words",
    path: ["words"],
    value: doc("Good evening") as never,
  });
  expect(translationCount(changed, "fr").stale).toBe(1);
  // The old translation stands until somebody has looked at it.
  expect(rendered(inLanguage(changed, "fr")).text).toContain("Bonjour");
  const again = translate(changed, "words", "words", doc("Bonsoir"));
  expect(translationCount(again, "fr").stale).toBe(0);
});

it("passes over a translation that does not fit, and can do no harm with it", () => {
  const evil = { kind: "web", address: line("javascript:alert(1)") };
  const document = translate(translate(base(), "go", "to", evil), "words", "words", {
    type: "doc",
    content: "x",
  });
  const { html, text } = rendered(inLanguage(document, "fr"));
  expect(html).not.toContain("javascript:");
  expect(text).toContain("https://larkmoor.example/en");
  expect(text).toContain("Good morning");
  const wrong = {
    ...document.root,
    props: { ...document.root.props, tr: { "not a language!": {} } },
  };
  expect(() => checkDocument({ ...document, root: wrong as never })).toThrow();
});

it("shows beside the original what its readers get", () => {
  const document = translate(base(), "words", "words", doc("Bonjour"));
  const shown = (node: string, path: string) => {
    const one = translatables(document).find(
      (found) => found.node.id === node && found.path[0] === path,
    )!;
    return JSON.stringify(shownIn(one, "fr"));
  };
  expect(shown("words", "words")).toContain("Bonjour");
  expect(shown("go", "label")).toContain("Visit");
  expect(shown("foot", "unsubscribeLabel")).toContain("Se désabonner");
});

it("depends on the same conditions in every language, so that a reader's bits mean the same", () => {
  const some = (words: string, rule: number) => ({
    type: "text",
    text: words,
    marks: [{ type: "who", attrs: { seenBy: RULES[rule]!, chain: null } }],
  });
  const only = (words: string, rule: number) =>
    doc({ type: "paragraph", content: [some(words, rule)] });
  const set = { type: "set", node: "words", path: ["words"], value: only("Good day", 0) as never };
  const document = translate(apply(base(), set as never), "words", "words", only("Bonjour", 1));
  expect(conditionsOf(document)).toHaveLength(2);
  for (const lang of ["en-GB", "fr", "de"]) {
    expect(compile(document, SURROUNDINGS, lang).conditions).toEqual(conditionsOf(document));
  }
});

it("any document without translations reads the same in every language, but for the catalogue", () => {
  fc.assert(
    fc.property(documentArbitrary, (document) => {
      const many = {
        ...document,
        root: { ...document.root, props: { ...document.root.props, others: ["de"] } },
      };
      const german = inLanguage(many, "de");
      expect(german.root.children).toBe(many.root.children);
      for (const one of translatables(many))
        expect(["missing", "done"]).toContain(stateOf(one, "de"));
    }),
    { numRuns: 30 },
  );
});

it.each([
  ["French", "fr"],
  ["Français", "fr"],
  ["francais", "fr"],
  ["fr-BE", "fr"],
  ["FR", "fr"],
  ["German", "de"],
  ["Deutsch", "de"],
  ["English", "en-GB"],
  ["Klingon", "en-GB"],
  ["", "en-GB"],
  [null, "en-GB"],
])("somebody whose field says %s reads %s", (value, lang) => {
  expect(languageFor(value, { lang: "en-GB", others: ["fr", "de"] })).toBe(lang);
});

it("gives readers of another language plain text of their own, never the hand-written words of the main one", () => {
  const before = base();
  const hand = apply(before, {
    type: "set",
    node: "words",
    path: ["plain"],
    value: { source: "Good morning, by hand", of: "x" },
  });
  const translated = translate(hand, "words", "words", doc("Bonjour"));
  expect(rendered(translated).text).toContain("Good morning, by hand");
  expect(rendered(inLanguage(translated, "fr")).text).toContain("Bonjour");
  expect(rendered(inLanguage(translated, "fr")).text).not.toContain("by hand");
  const own = translate(translated, "words", "plain", { source: "Bonjour, à la main", of: "x" });
  expect(rendered(inLanguage(own, "fr")).text).toContain("Bonjour, à la main");
  expect(rendered(own).text).toContain("Good morning, by hand");
});

it("gives each reader the very language they say where there are two of one tongue", () => {
  const email = { lang: "en-GB", others: ["pt-PT", "pt-BR", "fr"] };
  expect(languageFor("pt-BR", email)).toBe("pt-BR");
  expect(languageFor("PT-pt", email)).toBe("pt-PT");
  expect(languageFor("pt", email)).toBe("pt-PT");
  expect(languageFor("fr-CA", email)).toBe("fr");
});
