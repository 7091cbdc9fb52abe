/**
 * Edits: the only way to change a document. A new kind is one file with its schema, `apply`,
 * `invert` and `touches`, and one line in `KINDS` and in the schema below.
 */
import { z } from "zod";
import { LIMITS } from "../../limits.ts";
import { type OverSteps, rebaseSteps } from "../../text/index.ts";
import { find } from "../lookup.ts";
import type { EmailDocument } from "../model.ts";
import { EditError, type EditKind, type Touch } from "./edit.ts";
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

/** An edit made after the one in hand; `takesBack` is the index of the later edit it takes back. */
export interface LaterEdit {
  readonly edit: Edit;
  readonly takesBack: number | null;
}

/** The later edits that still stand: an edit and the one that took it back cancel out. */
function standing(later: readonly LaterEdit[]): Edit[] {
  const gone = new Set<number>();
  later.forEach(({ takesBack }, i) => {
    // Taking back an edit that had itself been cancelled with another does that other again.
    if (takesBack !== null && !gone.has(takesBack)) gone.add(takesBack).add(i);
  });
  return later.filter((_, i) => !gone.has(i)).map(({ edit }) => edit);
}

/** The steps of later edits on one text, in order. */
function stepsOn(part: SimpleEdit & { type: "text" }, later: readonly LaterEdit[]): OverSteps[] {
  const key = part.path.join(".");
  return later.map(({ edit, takesBack }) => ({
    takesBack,
    steps: parts(edit).flatMap((other) =>
      other.type === "text" && other.node === part.node && other.path.join(".") === key
        ? other.steps
        : [],
    ),
  }));
}

/**
 * Moves an edit (usually an inverse) over edits made after the state it was made for: its text steps are
 * mapped over theirs. Throws an EditError when what it changes is gone or was written over since.
 */
export function rebase(doc: EmailDocument, edit: Edit, later: readonly LaterEdit[]): Edit {
  const others = standing(later).flatMap(parts);
  const moved = parts(edit).flatMap((part): SimpleEdit[] => {
    if (part.type === "set") {
      const key = part.path.join(".");
      const again = others.some(
        (o) => o.type === "set" && o.node === part.node && o.path.join(".") === key,
      );
      if (again) throw new EditError("invalid", "The same setting has been changed since.");
    }
    if (part.type === "restore" && others.length > 0) {
      // It would write over everything that was done since.
      throw new EditError("invalid", "The email has been changed since.");
    }
    if (part.type === "insert" && part.after !== null) {
      // The neighbour may have gone meanwhile: then the end of the parent is the nearest place.
      const parent = find(doc, part.parent)?.node;
      if (parent && !parent.children.some((c) => c.id === part.after)) {
        return [{ ...part, after: parent.children.at(-1)?.id ?? null }];
      }
    }
    if (part.type !== "text") return [part];
    const steps = rebaseSteps(part.steps, stepsOn(part, later));
    return steps.length ? [{ ...part, steps }] : [];
  });
  if (moved.length === 0) throw new EditError("missing", "What this changed is gone.");
  return moved.length === 1 ? moved[0]! : { type: "group", edits: moved };
}

export { EditError, type Touch } from "./edit.ts";
export { valueAt, withValue } from "./set.ts";
