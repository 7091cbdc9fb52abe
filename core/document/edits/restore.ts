import { z } from "zod";
import { sameJson } from "../../json.ts";
import { nodeSchema, walk } from "../model.ts";
import { EditError, type EditKind } from "./edit.ts";
import { checkTree } from "./insert.ts";

/** The whole email as it was at some time: going back to an earlier state is a step like any other. */
export const restoreSchema = z.strictObject({ type: z.literal("restore"), root: nodeSchema });
export type Restore = z.infer<typeof restoreSchema>;

export const restore: EditKind<Restore> = {
  schema: restoreSchema,
  apply(draft, edit) {
    const { id, type } = edit.root;
    if (id !== draft.root.id || type !== draft.root.type) {
      throw new EditError("misplaced", "This is not this email.");
    }
    checkTree(edit.root, null);
    draft.replace(edit.root);
  },
  invert: (doc) => ({ type: "restore", root: doc.root }),
  // Taking it back would write over everything that was done since.
  over: (edit, { before, now, yields }) =>
    yields && !sameJson(before.root, now.root) ? null : edit,
  touches: (edit, doc) =>
    [...walk(doc.root), ...walk(edit.root)].map(({ id }) => ({ node: id, path: null })),
};
