import { z } from "zod";
import { find, replaceNode } from "../lookup.ts";
import { type EmailDocument, idSchema } from "../model.ts";
import { EditError, type EditKind } from "./edit.ts";

export const removeSchema = z.strictObject({ type: z.literal("remove"), node: idSchema });
export type Remove = z.infer<typeof removeSchema>;

/** Where a node stands, in the words of an insert or a move. */
export function standing(doc: EmailDocument, id: string) {
  const at = find(doc, id);
  if (!at?.parent) throw new EditError("missing", "This is no longer in the email.");
  return {
    node: at.node,
    parent: at.parent.id,
    after: at.parent.children[at.index - 1]?.id ?? null,
  };
}

export const remove: EditKind<Remove> = {
  schema: removeSchema,
  apply(doc, edit) {
    const { parent } = standing(doc, edit.node);
    return replaceNode(doc, parent, (p) => ({
      ...p,
      children: p.children.filter((child) => child.id !== edit.node),
    }));
  },
  invert: (doc, edit) => ({ type: "insert", ...standing(doc, edit.node) }),
  touches: (edit) => [{ node: edit.node, path: null }],
};
