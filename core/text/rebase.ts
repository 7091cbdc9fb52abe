/** Text edits as prosemirror-transform steps: apply, invert, and move over other people's steps. */
import { type Node as ProseNode, Slice } from "prosemirror-model";
import { type Mappable, Mapping, ReplaceStep, Step } from "prosemirror-transform";
import { type Json, sameJson } from "../json.ts";
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

/**
 * The steps that take the text back to what it was before `steps`; null where none do so to the letter: the
 * text was not spelled as steps leave it, or a mark was set where it stood already.
 */
export function invertSteps(text: TextJson, steps: readonly Json[]): Json[] | null {
  let node = open(text);
  const back: Json[] = [];
  for (const step of read(steps)) {
    back.unshift(step.invert(node).toJSON() as Json);
    const result = step.apply(node);
    if (!result.doc) throw new RangeError(result.failed ?? "This change does not fit the text");
    node = result.doc;
  }
  const again = read(back).reduce<ProseNode | null>(
    (state, step) => (state && step.apply(state).doc) || null,
    node,
  );
  return again && sameJson(again.toJSON(), text) ? back : null;
}

/** Steps of others, made since; those that take earlier ones of the list back name them by index. */
export interface OverSteps {
  readonly steps: readonly Json[];
  readonly takesBack: readonly number[];
}

/** Steps that belong together. */
export interface OwnSteps {
  readonly steps: readonly Json[];
  /** They give way: what others wrote or took out since stays so, also in the middle of what these take out. */
  readonly yields: boolean;
  /** Others have done the same: nothing is left to do, but what comes next was made on it. */
  readonly done?: boolean;
}

/**
 * Moves steps, made on some text one after another, over `theirs`, made since on that same text, so that
 * they apply to `now`, the text after theirs. What was deleted and brought back by an undo is found again.
 * Gives the steps of each part; null where both cannot be kept (`mergeable`).
 */
export function moveSteps(
  now: TextJson,
  mine: readonly OwnSteps[],
  theirs: readonly OverSteps[],
): Json[][] | null {
  const all = theirs.flatMap(({ steps }) => steps);
  if (all.length === 0) return mine.map(({ steps }) => [...steps]);
  if (!mergeable(mine, all)) return null;
  const own = mine.flatMap(({ steps, yields, done }, part) =>
    read(steps).map((step) => ({ step, yields, done, part })),
  );
  const mapping = new Mapping();
  for (const { step } of [...own].reverse()) mapping.appendMap(step.getMap().invert());
  appendTheirs(mapping, theirs);
  const moved: Json[][] = mine.map(() => []);
  let text = open(now);
  for (const [i, { step, yields, done, part }] of own.entries()) {
    const from = own.length - i;
    const rest = mapping.slice(from);
    const pieces = done ? [] : yields ? standing(step, rest) : [step.map(rest)];
    for (const piece of pieces) {
      const after = piece && afterStep(text, piece);
      if (!after) {
        if (!yields && bringsWords(step)) return null;
        continue;
      }
      text = after;
      mapping.appendMap(piece.getMap(), pieces.length === 1 ? from - 1 : undefined);
      moved[part]!.push(piece.toJSON() as Json);
    }
  }
  return moved;
}

function appendTheirs(mapping: Mapping, theirs: readonly OverSteps[]): void {
  const starts: number[] = [];
  for (const { steps, takesBack } of theirs) {
    starts.push(mapping.maps.length);
    const back = takesBack.flatMap((at) =>
      (theirs[at]?.steps ?? []).map((_, i) => (starts[at] ?? 0) + i),
    );
    // An inverse runs backwards: its first step mirrors the last one of what it takes back.
    const mirrored = back.length === steps.length;
    read(steps).forEach((step, i) => {
      mapping.appendMap(step.getMap(), mirrored ? back[back.length - 1 - i] : undefined);
    });
  }
}

const bringsWords = (step: Step): boolean => step instanceof ReplaceStep && step.slice.size > 0;

/** The text after a step, or null where it does not fit. */
function afterStep(text: ProseNode, step: Step): ProseNode | null {
  try {
    const { doc } = step.apply(text);
    doc?.check();
    return doc;
  } catch {
    return null;
  }
}

/**
 * A step moved so that it takes out only what still stands of what it meant: words that others wrote in
 * between stay. Later pieces come first, so that each is right where the ones before it were done.
 */
function standing(step: Step, mapping: Mappable): (Step | null)[] {
  if (!(step instanceof ReplaceStep) || step.from === step.to) return [step.map(mapping)];
  const ranges: { from: number; to: number }[] = [];
  for (let at = step.from; at < step.to; at++) {
    const from = mapping.map(at, 1);
    const to = mapping.map(at + 1, -1);
    if (to - from !== 1) continue;
    const last = ranges.at(-1);
    if (last?.to === from) last.to = to;
    else ranges.push({ from, to });
  }
  const [first, ...others] = ranges;
  if (!first) {
    const at = mapping.map(step.from, 1);
    return step.slice.size ? [new ReplaceStep(at, at, step.slice)] : [];
  }
  return [
    ...others.reverse().map(({ from, to }) => new ReplaceStep(from, to, Slice.empty)),
    new ReplaceStep(first.from, first.to, step.slice),
  ];
}

interface Range {
  readonly from: number;
  readonly to: number;
}

/** What steps replace, in positions of the text before all of them; steps that yield replace nothing. */
function replaced(parts: readonly OwnSteps[]): Range[] {
  const ranges: Range[] = [];
  /** From positions after the steps so far back to those before all of them. */
  let back = new Mapping();
  for (const { steps, yields } of parts) {
    for (const step of read(steps)) {
      const map = step.getMap();
      if (!yields) {
        map.forEach((from, to) => {
          ranges.push({ from: back.map(from, -1), to: back.map(to, 1) });
        });
      }
      back = new Mapping([map.invert(), ...back.maps]);
    }
  }
  return ranges;
}

/**
 * Whether steps of two people, made on the same text, can both be kept: neither replaces words that the
 * other replaced, nor words in the middle of which the other wrote.
 */
export function mergeable(mine: readonly OwnSteps[], theirs: readonly Json[]): boolean {
  const others = replaced([{ steps: theirs, yields: false }]);
  return replaced(mine).every((a) =>
    others.every((b) => {
      if (a.from === a.to && b.from === b.to) return true;
      if (a.from === a.to) return a.from <= b.from || a.from >= b.to;
      if (b.from === b.to) return b.from <= a.from || b.from >= a.to;
      return a.to <= b.from || b.to <= a.from;
    }),
  );
}
