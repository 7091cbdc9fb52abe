/**
 * Words that a new block comes with, or that a template's author left to be written over. A node keeps the mark
 * of each such text: as soon as somebody changes the words they are theirs, and undo makes them an example again.
 */
import { z } from "zod";
import { type DocNode, valueAt } from "../document/index.ts";
import { canonical, fingerprint, isJsonObject, type JsonObject } from "../json.ts";
import { isBlank, type TextJson } from "../text/index.ts";
import { isPartShown } from "./parts.ts";

/** By the way to a text: the mark of its words as they came. */
export const placeholderSchema = z.record(
  z.string().regex(/^[a-zA-Z.]{1,80}$/),
  z.string().max(40),
);

const markOf = (text: unknown): string => fingerprint(canonical(text));

/** Whether a text of a node still is what it came with; one that is switched off is nobody's. */
export function isPlaceholder(node: DocNode, path: readonly string[]): boolean {
  const { placeholder } = node.props;
  if (!isPartShown(node, path)) return false;
  const mark = isJsonObject(placeholder) ? placeholder[path.join(".")] : undefined;
  const text = valueAt(node.props, path);
  if (typeof mark !== "string" || text === undefined || mark !== markOf(text)) return false;
  return !isBlank(text as unknown as TextJson);
}

/** Properties with the texts at some paths marked as words to be written over. */
export function withPlaceholders(
  props: JsonObject,
  paths: readonly (readonly string[])[],
): JsonObject {
  const marks = paths.flatMap((path) => {
    const text = valueAt(props, path);
    return text === undefined ? [] : [[path.join("."), markOf(text)] as const];
  });
  return marks.length === 0 ? props : { ...props, placeholder: Object.fromEntries(marks) };
}
