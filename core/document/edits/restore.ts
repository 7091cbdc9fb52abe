import { z } from "zod";
import { walk } from "../lookup.ts";
import { nodeSchema } from "../model.ts";
import { EditError, type EditKind } from "./edit.ts";
import { checkTree } from "./insert.ts";

/** The whole email as it was at some time: going back to an earlier state is a step like any other. */
export const restoreSchema = z.strictObject({ type: z.literal("restore"), root: nodeSchema });
export type Restore = z.infer<typeof restoreSchema>;

export const restore: EditKind<Restore> = {
  schema: restoreSchema,
  apply(doc, edit) {
    const { id, type } = edit.root;
    if (id !== doc.root.id || type !== doc.root.type) {
      throw new EditError("misplaced", "This is not this email.");
    }
    checkTree(edit.root, null);
    return { ...doc, root: edit.root };
  },
  invert: (doc) => ({ type: "restore", root: doc.root }),
  touches: (edit) => [...walk(edit.root)].map((node) => ({ node: node.id, path: null })),
};
