import { z } from "zod";
import type { Lookup } from "../draft.ts";
import { idSchema } from "../model.ts";
import { EditError, type EditKind, nearestSibling } from "./edit.ts";
import { positionFor } from "./insert.ts";
import { standing } from "./remove.ts";

export const moveSchema = z.strictObject({
  type: z.literal("move"),
  node: idSchema,
  parent: idSchema,
  after: idSchema.nullable(),
});
export type Move = z.infer<typeof moveSchema>;

/** Whether a node is the other, or stands somewhere in it. */
function isWithin(doc: Lookup, id: string, other: string): boolean {
  for (let at: string | undefined = id; at; at = doc.find(at)?.parent?.id) {
    if (at === other) return true;
  }
  return false;
}

export const move: EditKind<Move> = {
  schema: moveSchema,
  apply(draft, edit) {
    const { node } = standing(draft, edit.node);
    if (edit.after === edit.node || isWithin(draft, edit.parent, edit.node)) {
      throw new EditError("misplaced", "A block cannot be moved into itself.");
    }
    const at = positionFor(draft, edit, node.type, node.id);
    draft.remove(edit.node);
    draft.insert(edit.parent, at, node);
  },
  invert(doc, edit) {
    const { parent, after } = standing(doc, edit.node);
    return { type: "move", node: edit.node, parent, after };
  },
  over(edit, past) {
    const { node, parent } = edit;
    const now = past.now.find(node)?.parent?.id;
    if (!now || !past.now.find(parent) || isWithin(past.now, parent, node)) return null;
    // Taking back: where somebody has moved it elsewhere since, it stays there.
    if (past.yields && now !== past.before.find(node)?.parent?.id) return null;
    const after = nearestSibling(past, parent, edit.after);
    return after === node ? null : { ...edit, after };
  },
  touches: (edit) => [{ node: edit.node, path: null }],
};
