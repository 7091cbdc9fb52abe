/**
 * Readers of an email with conditions of which hardly two fall out the same (1,000 combinations) against
 * readers who fall into ten: what one message costs, in turn.
 */

import type { DocNode, EmailDocument } from "#core/document/index.ts";
import { mergeBytes, prepare, type Reader, unsigned } from "#core/merge/index.ts";
import { chance } from "#core/random.ts";
import { compile } from "#core/render/index.ts";
import type { Rule } from "#core/rules/index.ts";
import { newsletter, SURROUNDINGS } from "./newsletter.ts";
import type { Figure } from "./run.ts";

const CONDITIONS = 40;
const READERS = 4_000;

const rule = (i: number): Rule =>
  ({ type: "field", field: `kind_${i}`, op: "is", argument: "Friend" }) as Rule;

/** The first blocks of an email, each for some readers only. */
function conditional(base: EmailDocument): EmailDocument {
  let placed = 0;
  const visit = (node: DocNode): DocNode => {
    const mine = ["heading", "text", "button"].includes(node.type) && placed < CONDITIONS;
    const props = mine ? { ...node.props, seenBy: rule(placed++) as never } : node.props;
    return { ...node, props, children: node.children.map(visit) };
  };
  return { ...base, root: visit(base.root) };
}

export async function combinationsGroup(figure: Figure): Promise<void> {
  const compiled = compile(conditional(newsletter(100, 20)), SURROUNDINGS);
  const random = chance(7);
  const some = (combinations: number): Reader[] => {
    const bits = Array.from({ length: combinations }, () =>
      compiled.conditions.map(() => (random.is(0.6) ? "1" : "0")).join(""),
    );
    return Array.from({ length: READERS }, (_, i) => ({
      values: { "contact:first_name": `Reader ${i}` },
      token: `m1-${String(i).padStart(20, "x")}`,
      bits: bits[i % combinations]!,
    }));
  };
  const many = some(1_000);
  const few = some(10);
  const bodyFor = () => prepare(compiled, { links: "tracked", marks: false, sign: unsigned }).html;
  const cost = (readers: readonly Reader[], body: ReturnType<typeof bodyFor>) => {
    const from = performance.now();
    for (const reader of readers) mergeBytes(body, reader);
    return performance.now() - from;
  };
  const [one, other] = [bodyFor(), bodyFor()];
  const ratios = Array.from({ length: 15 }, () => {
    const a = cost(many, one);
    return a / cost(few, other);
  }).sort((a, b) => a - b);
  figure("conditions_1000_combinations_vs_10", ratios[7]!);
}
