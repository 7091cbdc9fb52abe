/**
 * Merging 10,000 readers, both sides ending in the UTF-8 bytes of the message:
 * - `merge_vs_liquid`: liquidjs on our Liquid export, parsed once, over ours (at least 8);
 * - `merge_vs_copy`, `merge_60_tags_vs_copy`: ours over copying the same bytes together with the values
 *   already known as bytes (at most 1.6 and 2.6).
 */
import { Liquid } from "liquidjs";
import { toLiquid } from "#core/export/liquid/index.ts";
import {
  mergeBytes,
  type PreparedBody,
  prepare,
  type Reader,
  unsigned,
} from "#core/merge/index.ts";
import { compile } from "#core/render/index.ts";
import { newsletter, readers, SURROUNDINGS } from "./newsletter.ts";
import type { Figure } from "./run.ts";

const READERS = 10_000;
const ROUNDS = 7;

const median = (list: number[]) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)]!;

/** Times two ways in turn and gives the median of the ratios a/b. */
function ratio(a: () => number, b: () => number): number {
  const ratios: number[] = [];
  const time = (work: () => number) => {
    const start = performance.now();
    const bytes = work();
    if (bytes === 0) throw new Error("Nothing was made");
    return performance.now() - start;
  };
  time(a);
  time(b);
  for (let round = 0; round < ROUNDS; round++) ratios.push(time(a) / time(b));
  return median(ratios);
}

function ours(body: PreparedBody, people: readonly Reader[]): () => number {
  return () => {
    let bytes = 0;
    for (const reader of people) bytes += mergeBytes(body, reader).length;
    return bytes;
  };
}

/** The floor: constants and values, all known as bytes, copied one after another. */
function copying(body: PreparedBody, people: readonly Reader[]): () => number {
  const encoder = new TextEncoder();
  const known = people.map((reader) =>
    body.gaps.map((fill) => encoder.encode(body.fills[fill]!.write(reader))),
  );
  const out = new Uint8Array(512 * 1024);
  const { constants } = body;
  return () => {
    let bytes = 0;
    for (const values of known) {
      let at = 0;
      for (let i = 0; i < values.length; i++) {
        out.set(constants[i]!, at);
        at += constants[i]!.length;
        out.set(values[i]!, at);
        at += values[i]!.length;
      }
      out.set(constants[values.length]!, at);
      bytes += out.subarray(0, at + constants[values.length]!.length).length;
    }
    return bytes;
  };
}

export async function mergeGroup(figure: Figure): Promise<void> {
  const people = readers(READERS);
  const compiled = compile(newsletter(45, 12), SURROUNDINGS);
  const body = prepare(compiled, { links: "direct", marks: false, sign: unsigned }).html;
  const size = mergeBytes(body, people[0]!).length;
  console.log(
    `newsletter ${Math.round(size / 1000)} KB, ${body.gaps.length} tags, ${READERS} readers`,
  );

  const template = toLiquid(compiled);
  const engine = new Liquid();
  const parsed = engine.parse(template.html);
  const variables = people.map((reader) => template.variables(reader));
  for (const i of [0, 1, 40, 77, 4_999]) {
    const theirs = Buffer.from(engine.renderSync(parsed, variables[i]!) as string);
    if (!theirs.equals(mergeBytes(body, people[i]!))) throw new Error("Liquid gives other bytes");
  }
  const liquid = () => {
    let bytes = 0;
    for (const scope of variables) {
      bytes += Buffer.from(engine.renderSync(parsed, scope) as string, "utf8").length;
    }
    return bytes;
  };
  figure("merge_vs_liquid", ratio(liquid, ours(body, people)));
  figure("merge_vs_copy", ratio(ours(body, people), copying(body, people)));
  const sixty = prepare(compile(newsletter(45, 60), SURROUNDINGS), {
    links: "direct",
    marks: false,
    sign: unsigned,
  }).html;
  figure("merge_60_tags_vs_copy", ratio(ours(sixty, people), copying(sixty, people)));
}
