/** What a person does: an edit, and what is selected when it is done. */
import type { Edit, SimpleEdit } from "#core/document/index.ts";

export interface Doing {
  readonly edit: Edit;
  /** What is selected afterwards, one or several; left out, what was. */
  readonly select?: string | readonly string[] | null;
}

/** Several changes as one step. */
export const group = (edits: readonly SimpleEdit[]): Edit =>
  edits.length === 1 ? edits[0]! : { type: "group", edits: [...edits] };

/** Changes as a step of their own, also where it is a single change of words: typing never joins it. */
export const ownStep = (edits: readonly SimpleEdit[]): Edit => ({
  type: "group",
  edits: [...edits],
});

export const selecting = (ids: readonly string[]): string | readonly string[] =>
  ids.length === 1 ? ids[0]! : ids;
