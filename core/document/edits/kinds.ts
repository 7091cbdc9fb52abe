/**
 * The kinds of edits. A new kind is one file with its schema and what an `EditKind` does, and one line in
 * `KINDS` and in the schema below.
 */
import { z } from "zod";
import { LIMITS } from "../../limits.ts";
import { createDraft, type Draft } from "../draft.ts";
import type { EmailDocument } from "../model.ts";
import type { EditKind } from "./edit.ts";
import { insert, insertSchema } from "./insert.ts";
import { move, moveSchema } from "./move.ts";
import { remove, removeSchema } from "./remove.ts";
import { restore, restoreSchema } from "./restore.ts";
import { set, setSchema } from "./set.ts";
import { text, textEditSchema } from "./text.ts";

const simpleSchema = z.discriminatedUnion("type", [
  insertSchema,
  removeSchema,
  moveSchema,
  setSchema,
  textEditSchema,
  restoreSchema,
]);
/** Several changes that are one step for the person. */
const groupSchema = z.strictObject({
  type: z.literal("group"),
  edits: z.array(simpleSchema).min(1).max(LIMITS.editParts),
});
export const editSchema = z.discriminatedUnion("type", [...simpleSchema.options, groupSchema]);
export type SimpleEdit = z.infer<typeof simpleSchema>;
export type Edit = z.infer<typeof editSchema>;

const KINDS = { insert, remove, move, set, text, restore } as const;
export const kindOf = (edit: SimpleEdit) => KINDS[edit.type] as unknown as EditKind<SimpleEdit>;

/** The changes an edit is made of, in order. */
export const parts = (edit: Edit): readonly SimpleEdit[] =>
  edit.type === "group" ? edit.edits : [edit];

/** One edit of several changes; a single one stands for itself. */
export const together = (edits: readonly SimpleEdit[]): Edit =>
  edits.length === 1 ? edits[0]! : { type: "group", edits: [...edits] };

/** Applies an edit to a draft. Throws an EditError when it does not fit; earlier parts of it stay done then. */
export function applyTo(draft: Draft, edit: Edit): void {
  for (const part of parts(edit)) kindOf(part).apply(draft, part);
}

/** The document after the edit. Throws an EditError, and changes nothing, when it does not fit. */
export function apply(doc: EmailDocument, edit: Edit): EmailDocument {
  const draft = createDraft(doc);
  applyTo(draft, edit);
  return draft.done();
}

/** The document after the edit, and the edit that takes it back. Throws as `apply` does. */
export function applyWithInverse(
  doc: EmailDocument,
  edit: Edit,
): { readonly doc: EmailDocument; readonly inverse: Edit } {
  const draft = createDraft(doc);
  const back: SimpleEdit[] = [];
  for (const part of parts(edit)) {
    back.push(kindOf(part).invert(draft, part) as SimpleEdit);
    kindOf(part).apply(draft, part);
  }
  back.reverse();
  const inverse: Edit = edit.type === "group" ? { type: "group", edits: back } : back[0]!;
  return { doc: draft.done(), inverse };
}

/** The edit that takes `edit` back; `doc` is the document before it. */
export const invert = (doc: EmailDocument, edit: Edit): Edit => applyWithInverse(doc, edit).inverse;
