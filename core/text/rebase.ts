/** Text edits as prosemirror-transform steps: apply, invert, and rebase over other people's steps. */
import type { Node as ProseNode } from "prosemirror-model";
import { Mapping, Step } from "prosemirror-transform";
import type { Json } from "../json.ts";
import { parseText, type TextJson, type TextKind, textSchema } from "./schema.ts";

const read = (steps: readonly Json[]) => steps.map((step) => Step.fromJSON(textSchema, step));

function open(text: TextJson): ProseNode {
  return parseText(text, text.type as TextKind);
}

/** The text after the steps. Throws a RangeError when a step does not fit. */
export function applySteps(text: TextJson, steps: readonly Json[]): TextJson {
  let node = open(text);
  for (const step of read(steps)) {
    const result = step.apply(node);
    if (!result.doc) throw new RangeError(result.failed ?? "This change does not fit the text");
    node = result.doc;
  }
  node.check();
  return node.toJSON() as TextJson;
}

/** The steps that take the text back to what it was before `steps`. */
export function invertSteps(text: TextJson, steps: readonly Json[]): Json[] {
  let node = open(text);
  const back: Json[] = [];
  for (const step of read(steps)) {
    back.unshift(step.invert(node).toJSON() as Json);
    const result = step.apply(node);
    if (!result.doc) throw new RangeError(result.failed ?? "This change does not fit the text");
    node = result.doc;
  }
  return back;
}

/** Steps made by others since; those that take earlier ones of the list back name them by index. */
export interface OverSteps {
  readonly steps: readonly Json[];
  readonly takesBack: number | null;
}

/**
 * Moves `steps`, made on some text, over `over`, made since on that same text, so that they apply after
 * them. What was deleted and brought back by an undo is found again. Steps whose ground is gone are
 * left out.
 */
export const rebaseSteps = (steps: readonly Json[], over: readonly OverSteps[]): Json[] =>
  rebaseEach(steps, over).filter((step) => step !== null);

/** The same, step by step: null stands where a step's ground is gone. */
export function rebaseEach(steps: readonly Json[], over: readonly OverSteps[]): (Json | null)[] {
  const mine = read(steps);
  const mapping = new Mapping();
  for (const step of [...mine].reverse()) mapping.appendMap(step.getMap().invert());
  const starts: number[] = [];
  for (const { steps: theirs, takesBack } of over) {
    const start = mapping.maps.length;
    starts.push(start);
    const mirrored = takesBack !== null && over[takesBack]?.steps.length === theirs.length;
    read(theirs).forEach((step, i) => {
      // An inverse runs backwards: its first step mirrors the last one of what it takes back.
      const mirror = mirrored ? starts[takesBack]! + theirs.length - 1 - i : undefined;
      mapping.appendMap(step.getMap(), mirror);
    });
  }
  return mine.map((step, i) => {
    const from = mine.length - i;
    const mapped = step.map(mapping.slice(from));
    if (!mapped) return null;
    mapping.appendMap(mapped.getMap(), from - 1);
    return mapped.toJSON() as Json;
  });
}

interface Range {
  readonly from: number;
  readonly to: number;
}

/** What steps replace, in positions of the text before all of them. */
function replaced(steps: readonly Json[]): Range[] {
  const ranges: Range[] = [];
  /** From positions after the steps so far back to those before all of them. */
  let back = new Mapping();
  for (const step of read(steps)) {
    const map = step.getMap();
    map.forEach((from, to) => {
      ranges.push({ from: back.map(from, -1), to: back.map(to, 1) });
    });
    back = new Mapping([map.invert(), ...back.maps]);
  }
  return ranges;
}

/**
 * Whether steps of two people, made on the same text, can both be kept: neither replaces words that the
 * other replaced, nor words in the middle of which the other wrote.
 */
export function mergeable(mine: readonly Json[], theirs: readonly Json[]): boolean {
  const others = replaced(theirs);
  return replaced(mine).every((a) =>
    others.every((b) => {
      if (a.from === a.to && b.from === b.to) return true;
      if (a.from === a.to) return a.from <= b.from || a.from >= b.to;
      if (b.from === b.to) return b.from <= a.from || b.from >= a.to;
      return a.to <= b.from || b.to <= a.from;
    }),
  );
}
