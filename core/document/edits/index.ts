/** Edits: the only way to change a document. */
export { Clash, EditError, type Touch } from "./edit.ts";
export { checkTree } from "./insert.ts";
export {
  apply,
  applyWithInverse,
  type Edit,
  editSchema,
  invert,
  parts,
  type SimpleEdit,
  together,
} from "./kinds.ts";
export { type Later, moveOver, type Own, type Unmerged } from "./over.ts";
export { valueAt, withValue } from "./set.ts";
