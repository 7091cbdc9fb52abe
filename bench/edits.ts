/**
 * Edits: many random sessions of three tabs and two people on a bad line, after which all must have the same
 * bytes and no letter may be lost; and what a batch of edits costs as it grows.
 */
import { createBand, createBlock, createColumn, createDocument } from "#core/blocks/index.ts";
import { apply, type Edit, invert } from "#core/document/index.ts";
import { playSession } from "#core/testing/sessions.ts";
import { doc } from "#core/text/index.ts";
import type { Figure } from "./run.ts";

const SESSIONS = 2_000;

/** An email of so many blocks, and one edit that sets something of each. */
function batch(size: number): { document: ReturnType<typeof createDocument>; edit: Edit } {
  let ids = 0;
  const id = () => `n${++ids}`;
  const blocks = Array.from({ length: size }, () => createBlock("text", id, { words: doc("Hi") }));
  const document = createDocument([createBand(id, [createColumn(id, blocks)])]);
  const edits = blocks.map(({ id: node }, i) => ({
    type: "set" as const,
    node,
    path: ["box", "padding", "top"],
    value: i % 40,
  }));
  return { document, edit: { type: "group", edits } };
}

/** The quickest of several runs, each on a document nothing is known of, ms. */
function cost(size: number): number {
  const times = Array.from({ length: 9 }, () => {
    const { document, edit } = batch(size);
    const from = performance.now();
    invert(document, edit);
    apply(document, edit);
    return performance.now() - from;
  });
  return Math.min(...times);
}

export async function editsGroup(figure: Figure): Promise<void> {
  const seen = { edits: 0, clashes: 0, undone: 0 };
  let [diverged, lost] = [0, 0];
  for (let seed = 1; seed <= SESSIONS; seed++) {
    const result = playSession(seed * 7_919);
    diverged += result.diverged;
    lost += result.lettersLost;
    for (const name of ["edits", "clashes", "undone"] as const) seen[name] += result[name];
  }
  figure("edits_sessions", SESSIONS);
  figure("edits_diverged", diverged);
  figure("edits_letters_lost", lost);
  figure("edits_made", seen.edits);
  figure("edits_taken_back", seen.undone);
  figure("edits_clashes", seen.clashes);
  cost(150);
  figure("edit_batch_growth_10x", cost(1_500) / cost(150));
}
