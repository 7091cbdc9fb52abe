import { z } from "zod";
import type { Lookup } from "../draft.ts";
import { idSchema, walk } from "../model.ts";
import { EditError, type EditKind } from "./edit.ts";

export const removeSchema = z.strictObject({ type: z.literal("remove"), node: idSchema });
export type Remove = z.infer<typeof removeSchema>;

/** Where a node stands, in the words of an insert or a move. */
export function standing(doc: Lookup, id: string) {
  const at = doc.find(id);
  if (!at?.parent) throw new EditError("missing", "This is no longer in the email.");
  return {
    node: at.node,
    parent: at.parent.id,
    after: at.parent.children[at.index - 1]?.id ?? null,
  };
}

export const remove: EditKind<Remove> = {
  schema: removeSchema,
  apply(draft, edit) {
    standing(draft, edit.node);
    draft.remove(edit.node);
  },
  invert: (doc, edit) => ({ type: "insert", ...standing(doc, edit.node) }),
  over: (edit, past) => (past.now.find(edit.node) ? edit : null),
  touches: (edit, doc) =>
    [...walk(standing(doc, edit.node).node)].map(({ id }) => ({ node: id, path: null })),
};
