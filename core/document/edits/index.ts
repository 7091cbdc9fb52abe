/**
 * Edits: the only way to change a document. A new kind is one file with its schema, `apply`,
 * `invert` and `touches`, and one line in `KINDS` and in the schema below.
 */
import { z } from "zod";
import { LIMITS } from "../../limits.ts";
import { rebaseSteps } from "../../text/index.ts";
import { find } from "../lookup.ts";
import type { EmailDocument } from "../model.ts";
import { EditError, type EditKind, type Touch } from "./edit.ts";
import { insert, insertSchema } from "./insert.ts";
import { move, moveSchema } from "./move.ts";
import { remove, removeSchema } from "./remove.ts";
import { set, setSchema } from "./set.ts";
import { text, textEditSchema } from "./text.ts";

const simpleSchema = z.discriminatedUnion("type", [
  insertSchema,
  removeSchema,
  moveSchema,
  setSchema,
  textEditSchema,
]);
/** Several changes that are one step for the person. */
const groupSchema = z.strictObject({
  type: z.literal("group"),
  edits: z.array(simpleSchema).min(1).max(LIMITS.editsPerRequest),
});
export const editSchema = z.discriminatedUnion("type", [...simpleSchema.options, groupSchema]);
export type SimpleEdit = z.infer<typeof simpleSchema>;
export type Edit = z.infer<typeof editSchema>;

const KINDS = { insert, remove, move, set, text } as const;
const kindOf = (edit: SimpleEdit) => KINDS[edit.type] as unknown as EditKind<SimpleEdit>;

/** The changes an edit is made of, in order. */
export const parts = (edit: Edit): readonly SimpleEdit[] =>
  edit.type === "group" ? edit.edits : [edit];

/** The document after the edit. Throws an EditError, and changes nothing, when it does not fit. */
export function apply(doc: EmailDocument, edit: Edit): EmailDocument {
  return parts(edit).reduce((state, part) => kindOf(part).apply(state, part), doc);
}

/** The edit that takes `edit` back; `doc` is the document before it. */
export function invert(doc: EmailDocument, edit: Edit): Edit {
  const back: SimpleEdit[] = [];
  let state = doc;
  for (const part of parts(edit)) {
    back.unshift(kindOf(part).invert(state, part) as SimpleEdit);
    state = kindOf(part).apply(state, part);
  }
  return edit.type === "group" ? { type: "group", edits: back } : back[0]!;
}

/** The nodes and properties an edit writes. */
export const touches = (edit: Edit): Touch[] =>
  parts(edit).flatMap((part) => kindOf(part).touches(part));

const sameText = (a: SimpleEdit, b: SimpleEdit) =>
  a.type === "text" &&
  b.type === "text" &&
  a.node === b.node &&
  a.path.join(".") === b.path.join(".");

/** True when both edits write the same text, so that the later one stands on stale ground. */
export function clash(edit: Edit, other: Edit): boolean {
  const writesText = (e: Edit) => parts(e).some((part) => part.type === "text");
  if (!writesText(edit)) return false;
  const mine = touches(edit).filter((t) => t.path);
  return touches(other).some((t) =>
    mine.some((m) => m.node === t.node && (t.path === null || overlap(m.path!, t.path))),
  );
}
const overlap = (a: readonly string[], b: readonly string[]) => {
  const length = Math.min(a.length, b.length);
  return a.slice(0, length).join(".") === b.slice(0, length).join(".");
};

/**
 * Moves an edit (usually an inverse) over edits made after the state it was made for: its text steps are
 * mapped over theirs. Throws an EditError when what it changes is gone or was written over since.
 */
export function rebase(doc: EmailDocument, edit: Edit, later: readonly Edit[]): Edit {
  const others = later.flatMap(parts);
  const moved = parts(edit).flatMap((part): SimpleEdit[] => {
    if (part.type === "set") {
      const key = part.path.join(".");
      if (
        others.some((o) => o.type === "set" && o.node === part.node && o.path.join(".") === key)
      ) {
        throw new EditError("invalid", "Somebody has changed the same setting since.");
      }
    }
    if (part.type === "insert" && find(doc, part.parent) && part.after !== null) {
      // The neighbour may have gone meanwhile: then the end of the parent is the nearest place.
      const parent = find(doc, part.parent)!.node;
      if (!parent.children.some((c) => c.id === part.after)) {
        return [{ ...part, after: parent.children.at(-1)?.id ?? null }];
      }
    }
    if (part.type !== "text") return [part];
    const over = others.flatMap((o) => (o.type === "text" && sameText(part, o) ? o.steps : []));
    if (over.length === 0) return [part];
    const steps = rebaseSteps(part.steps, over);
    return steps.length ? [{ ...part, steps }] : [];
  });
  if (moved.length === 0) throw new EditError("missing", "What this changed is gone.");
  return moved.length === 1 ? moved[0]! : { type: "group", edits: moved };
}

export { EditError, type Touch } from "./edit.ts";
export { valueAt } from "./set.ts";
