/** Our own emails, taken out as HTML and in again: nothing of what is read in them is lost or moved. */
import fc from "fast-check";
import { expect, it } from "vitest";
import { createBand, createBlock, createColumn, createDocument } from "../../blocks/index.ts";
import type { DocNode } from "../../document/index.ts";
import { documentArbitrary } from "../../testing/arbitrary-documents.ts";
import { keptOf } from "../../testing/foreign.ts";
import { ids, rendered } from "../../testing/rendered.ts";
import { doc, line, paragraph, phrase } from "../../text/index.ts";
import { readForeign } from "./index.ts";
import { seenIn, wordsOfDocument } from "./kept.ts";

it("keeps every word, link and image of any of our emails", () => {
  fc.assert(
    fc.property(documentArbitrary, (document) => {
      const { kept } = keptOf(readForeign(rendered(document).html));
      for (const [some, all] of Object.values(kept)) expect(some).toBe(all);
    }),
    { numRuns: 100 },
  );
});

/** The first of some words that does not come after those before it among others; null where all do. */
function outOfOrder(words: readonly string[], among: readonly string[]): string | null {
  let at = 0;
  for (const word of words) {
    const found = among.indexOf(word, at);
    if (found < 0) return word;
    at = found + 1;
  }
  return null;
}

it("keeps the order in which any of our emails is read", () => {
  fc.assert(
    fc.property(documentArbitrary, (document) => {
      const foreign = readForeign(rendered(document).html);
      const taken = wordsOfDocument(keptOf(foreign).doc.root, () => "");
      expect(outOfOrder(seenIn(foreign.body).words, taken)).toBeNull();
    }),
    { numRuns: 100 },
  );
});

/** Bands of one to four columns, each with blocks of words that stand nowhere else. */
const columnsArbitrary = fc.array(
  fc.array(fc.array(fc.constantFrom("text", "heading", "button"), { minLength: 1, maxLength: 3 }), {
    minLength: 1,
    maxLength: 4,
  }),
  { minLength: 1, maxLength: 4 },
);

it("keeps columns as columns, with what stood in each", () => {
  fc.assert(
    fc.property(columnsArbitrary, (bands) => {
      const id = ids("o");
      let n = 0;
      const block = (type: string): DocNode => {
        const words = `word${++n} and more${n}`;
        if (type === "text") return createBlock("text", id, { words: doc(paragraph(words)) });
        if (type === "heading") return createBlock("heading", id, { words: phrase(words) });
        const to = { kind: "web", address: line(`https://larkmoor.example/${n}`) } as const;
        return createBlock("button", id, { label: line(words), to });
      };
      const made = bands.map((columns) =>
        createBand(
          id,
          columns.map((types) => createColumn(id, types.map(block))),
        ),
      );
      const shape = (root: DocNode) =>
        root.children.flatMap((band) => {
          const columns = band.children.map((column) =>
            wordsOfDocument(column, () => "").join(" "),
          );
          return columns.length > 1 ? [columns] : [];
        });
      const document = createDocument(made);
      const { doc: taken } = keptOf(readForeign(rendered(document).html));
      expect(shape(taken.root)).toEqual(shape(document.root));
    }),
    { numRuns: 100 },
  );
});
