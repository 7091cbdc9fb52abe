/** Fixed newsletters for measuring. */
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import type { DocNode, EmailDocument } from "#core/document/index.ts";
import type { Json } from "#core/json.ts";
import type { Surroundings } from "#core/kinds/kind.ts";
import type { Reader } from "#core/merge/index.ts";
import { doc, line, paragraph, phrase, type Tag, tag } from "#core/text/index.ts";

const SENTENCE =
  "The path along the brook is dry again, and eleven kinds are in flower between the old trees and the wall. ";

export const SURROUNDINGS: Surroundings = {
  brand: { name: "Larkmoor", postalAddress: "Brook Lane 7\nLarkmoor" },
  publicAddress: "https://mail.larkmoor.example",
  pictures: new Map(),
};

/** Tags in turn: plain texts, a number and a date with their formats. */
const tagAt = (i: number): Tag =>
  [
    tag("contact:first_name", "gardener"),
    tag("contact:site", "the gate"),
    tag("contact:visits", "some", { type: "number", decimals: 0 }),
    tag("contact:joined", "the beginning", { type: "date", style: "long" }),
    tag("contact:membership", "Visitor"),
    tag("contact:last_name", "friend"),
  ][i % 6]!;

/** A newsletter of so many blocks in which so many tags stand, spread over its texts. */
export function newsletter(blocks: number, tags: number): EmailDocument {
  let n = 0;
  const id = () => `b${++n}`;
  const texts = Math.floor(blocks / 3);
  let placed = 0;
  const bands: DocNode[] = [];
  for (let i = 0; i < texts; i++) {
    const share = Math.round(((i + 1) * tags) / texts);
    const parts: (string | Tag)[] = [SENTENCE];
    for (; placed < share; placed++) parts.push(tagAt(placed), `: ${SENTENCE}`);
    const column = createColumn(id, [
      createBlock("heading", id, { words: phrase(`Part ${i + 1} of the letter`), level: 2 }),
      createBlock("text", id, { words: doc(paragraph(...parts), SENTENCE.repeat(5)) }),
      createBlock("button", id, {
        label: line("Keep me a place"),
        to: { kind: "web", address: line(`https://larkmoor.example/part/${i + 1}`) },
      }),
    ]);
    bands.push(createBand(id, [column]));
  }
  return createDocument(bands, {
    envelope: {
      fromName: line("Larkmoor"),
      fromAddress: "news@larkmoor.example",
      replyTo: "",
      subject: line("News"),
      preview: line("From the garden"),
    },
  });
}

const FIRST = ["Ada", "Amélie", "Bram", "Zoë", "Rafe", "Solène", "O’Hara", "Noé"];
const LAST = ["Garnier", "Fallow", "Coombe", "Sedgwick & Daughters", "Vane", "Lafleurie"];
const SITES = ["Larkmoor Hill", "Saltmere Walled Garden"];

/** So many readers with the gaps and accents that real lists have. */
export function readers(count: number): Reader[] {
  return Array.from({ length: count }, (_, i) => {
    const values: Record<string, Json> = {
      "contact:last_name": LAST[i % LAST.length]!,
      "contact:site": SITES[i % 2]!,
      "contact:joined": new Date(Date.UTC(2020, 0, 1) + (i % 2_000) * 86_400_000)
        .toISOString()
        .slice(0, 10),
      "contact:membership": i % 3 ? "Visitor" : "Friend",
    };
    if (i % 40) values["contact:first_name"] = FIRST[i % FIRST.length]!;
    if (i % 4) values["contact:visits"] = i % 25;
    return { values, token: "" };
  });
}
