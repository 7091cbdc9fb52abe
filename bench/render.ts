/**
 * Rendering: compiling a document that nothing has been made of before, against a standard parser reading
 * the HTML that comes out; and how large emails are (`demo_bytes_vs_before` at most 0.78, `size_100_blocks_kb` at
 * most 72).
 */
import { readFileSync } from "node:fs";
import { parse } from "parse5";
import { readDocument } from "#core/blocks/read.ts";
import { apply, type EmailDocument, walk } from "#core/document/index.ts";
import type { Picture } from "#core/kinds/kind.ts";
import { mergeText, prepare, unsigned } from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { PICTURE, picture } from "#core/testing/rendered.ts";
import { samples } from "#core/testing/samples.ts";
import { newsletter, SURROUNDINGS } from "./newsletter.ts";
import type { Figure } from "./run.ts";

const OPTIONS = { links: "tracked", marks: false, sign: unsigned } as const;
const around = { ...SURROUNDINGS, pictures: new Map([[PICTURE, picture(PICTURE)]]) };
const htmlOf = (doc: EmailDocument, surroundings = around) =>
  mergeText(prepare(compile(doc, surroundings), OPTIONS).html, {
    values: {},
    token: "m1-AAAAAAAAAAAAAAAAAAAA",
  });

/** A new copy, so that nothing made of the nodes before can be taken. */
const fresh = (doc: EmailDocument): EmailDocument => structuredClone(doc);

/** Median time (ms) of each of two pieces of work, done in turn so that both meet the same machine. */
function pair(one: () => number, other: () => number, rounds: number): [number, number] {
  const times: [number[], number[]] = [[], []];
  for (let i = 0; i < rounds; i++) {
    times[0].push(one());
    times[1].push(other());
  }
  const median = (all: number[]) => all.toSorted((a, b) => a - b)[rounds >> 1]!;
  return [median(times[0]), median(times[1])];
}
const timed = (work: () => unknown): number => {
  const from = performance.now();
  work();
  return performance.now() - from;
};

/** Sixty blocks of every kind there is, in the order of the gallery. */
function mixed(blocks: number): EmailDocument {
  const all = samples([PICTURE]).map(({ doc }) => doc);
  const bands = Array.from({ length: blocks }, (_, i) => all[i % all.length]!.root.children[0]!);
  return {
    ...all[0]!,
    root: { ...all[0]!.root, children: bands.map((band) => structuredClone(band)) },
  };
}

/**
 * An email in two languages, compiled in each, then in each again after a change of one block: per compiling,
 * over a standard parser reading the HTML.
 */
function alternating(base: EmailDocument): number {
  const props = { ...base.root.props, others: ["fr"] };
  const doc = { ...base, root: { ...base.root, props } };
  const html = htmlOf(doc);
  const node = [...walk(doc.root)].find(({ type }) => type === "text")!.id;
  const copies = Array.from({ length: 36 }, () => fresh(doc));
  let at = 0;
  const both = () => {
    const copy = copies[at++ % copies.length]!;
    const path = ["box", "padding", "top"];
    const changed = apply(copy, { type: "set", node, path, value: 11 });
    return (
      timed(() => {
        for (const one of [copy, changed])
          for (const lang of ["en-GB", "fr"]) compile(one, around, lang);
      }) / 4
    );
  };
  for (let i = 0; i < 6; i++) both();
  const [ours, theirs] = pair(both, () => timed(() => parse(html)), 30);
  return ours / theirs;
}

/**
 * The demo newsletter as it was when its bytes were first counted, as it is written now and as it was written then
 * (28 November 2026): merged HTML in UTF-8 for a reader with a fixed token.
 */
export function demoBytes(): { now: number; before: number } {
  const { bytes, pictures, doc } = JSON.parse(
    readFileSync(new URL("demo-newsletter.json", import.meta.url), "utf8"),
  ) as { bytes: number; pictures: Picture[]; doc: unknown };
  const shown = { ...around, pictures: new Map(pictures.map((one) => [one.id, one])) };
  return {
    now: Buffer.byteLength(htmlOf(readDocument(JSON.stringify(doc)).doc, shown)),
    before: bytes,
  };
}

export async function renderGroup(figure: Figure): Promise<void> {
  const compare = (doc: EmailDocument) => {
    const html = htmlOf(doc);
    const copies = Array.from({ length: 60 }, () => fresh(doc));
    let at = 0;
    for (let i = 0; i < 10; i++) compile(copies[at++]!, around);
    const [ours, theirs] = pair(
      () => {
        const copy = copies[at++]!;
        return timed(() => compile(copy, around));
      },
      () => timed(() => parse(html)),
      50,
    );
    return ours / theirs;
  };
  figure("compile_60_vs_parse", compare(newsletter(60, 20)));
  figure("compile_60_mixed_vs_parse", alternating(mixed(60)));
  const size = demoBytes();
  figure("size_demo_kb", size.now / 1024);
  figure("demo_bytes_vs_before", size.now / size.before);
  figure("size_100_blocks_kb", Buffer.byteLength(htmlOf(newsletter(100, 40))) / 1024);
}
