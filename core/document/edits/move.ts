import { z } from "zod";
import { find, pathTo } from "../lookup.ts";
import { idSchema } from "../model.ts";
import { EditError, type EditKind } from "./edit.ts";
import { place } from "./insert.ts";
import { remove, standing } from "./remove.ts";

export const moveSchema = z.strictObject({
  type: z.literal("move"),
  node: idSchema,
  parent: idSchema,
  after: idSchema.nullable(),
});
export type Move = z.infer<typeof moveSchema>;

export const move: EditKind<Move> = {
  schema: moveSchema,
  apply(doc, edit) {
    const { node } = standing(doc, edit.node);
    if (edit.after === edit.node || pathTo(doc, edit.parent).some((n) => n.id === edit.node)) {
      throw new EditError("misplaced", "A block cannot be moved into itself.");
    }
    if (!find(doc, edit.parent)) throw new EditError("missing", "The place for this is gone.");
    const without = remove.apply(doc, { type: "remove", node: edit.node });
    return place(without, edit.parent, edit.after, node);
  },
  invert(doc, edit) {
    const { parent, after } = standing(doc, edit.node);
    return { type: "move", node: edit.node, parent, after };
  },
  touches: (edit) => [{ node: edit.node, path: null }],
};
