/** A person's history: which step is taken back next, and the edit that does so over what was done since. */

import { LIMITS } from "../limits.ts";
import {
  type Edit,
  EditError,
  invert,
  type Later,
  moveOver,
  parts,
  type SimpleEdit,
  together,
} from "./edits/index.ts";
import type { EmailDocument } from "./model.ts";

/** What an edit is to its person's history: something new, or an earlier step taken back or done again. */
export type Does = "do" | "undo" | "redo";

/** An edit with its place in its person's history. */
export interface Change {
  readonly id: string;
  readonly edit: Edit;
  readonly does: Does;
  /** The edits that are one step for the person share this: the id of the first of them. */
  readonly step: string;
  /** For undo and redo: the step that is taken back. */
  readonly of: string | null;
}

/** An edit in the order in which all were made, with the state after it. */
export interface Entry extends Change {
  /** Made by the person whose history this is. */
  readonly own: boolean;
  readonly after: EmailDocument;
}

/** What the history needs to know of an edit to find the next step. */
export type StepMark = Pick<Change, "step" | "does" | "of">;

/** The step of a person that undo or redo is about next, or null; `own` are the person's edits in order. */
export function nextStep(own: readonly StepMark[], what: "undo" | "redo"): string | null {
  const taken = new Set(own.flatMap(({ of }) => (of === null ? [] : [of])));
  for (const { step, does } of own.toReversed()) {
    // Doing something new closes the way forward.
    if (what === "redo" && does === "do") return null;
    if ((does === "undo") === (what === "redo") && !taken.has(step)) return step;
  }
  return null;
}

/** Each edit with those of the list that it takes back. */
export const withTakesBack = (edits: readonly Change[]): Later[] =>
  edits.map(({ edit, of }, i) => ({
    edit,
    takesBack:
      of === null ? [] : edits.slice(0, i).flatMap((one, at) => (one.step === of ? [at] : [])),
  }));

/**
 * The edit that takes a step of the person back: the inverse of each of its edits, moved over all that came
 * since. `start` is the state before the first entry. Throws an EditError when there is nothing left to take
 * back.
 */
export function takeBack(
  start: () => EmailDocument,
  entries: readonly Entry[],
  step: string,
): Edit {
  const made: SimpleEdit[] = [];
  /** What is taken back so far, as edits after the entries. */
  const back: { readonly edit: Edit; readonly of: number }[] = [];
  for (let at = entries.length - 1; at >= 0; at--) {
    const entry = entries[at]!;
    if (!entry.own || entry.step !== step) continue;
    const before = at > 0 ? entries[at - 1]!.after : start();
    const later: Later[] = [
      ...withTakesBack(entries.slice(at + 1)),
      ...back.map(({ edit, of }) => ({ edit, takesBack: [of - at - 1] })),
    ];
    const inverse = invert(before, entry.edit);
    const moved = moveOver(entry.after, [{ edit: inverse, yields: true }], later).edits[0];
    if (!moved) continue;
    made.push(...parts(moved));
    back.push({ edit: moved, of: at });
  }
  if (made.length === 0) {
    throw new EditError("missing", "What this changed is gone, or has been changed since.");
  }
  return together(made);
}

/** The last thing typed, for what is typed next in the same go. */
export interface Typed {
  readonly step: string;
  readonly node: string;
  readonly path: readonly string[];
  /** When the step began, and when it was last typed in, ms. */
  readonly begun: number;
  readonly at: number;
}

/**
 * The step an edit belongs to: that of what was typed before it, where both were typed into one text in one
 * go; else its own, named by its id. Gives what is to be known for the next, null where it was not typing.
 */
export function stepOf(
  edit: Edit,
  id: string,
  before: Typed | null,
  now: number,
): { readonly step: string; readonly typed: Typed | null } {
  if (edit.type !== "text") return { step: id, typed: null };
  const { node, path } = edit;
  const goesOn =
    before !== null &&
    before.node === node &&
    before.path.join(".") === path.join(".") &&
    now - before.at <= LIMITS.stepRest &&
    now - before.begun <= LIMITS.stepLength;
  const step = goesOn ? before.step : id;
  return { step, typed: { step, node, path, begun: goesOn ? before.begun : now, at: now } };
}
