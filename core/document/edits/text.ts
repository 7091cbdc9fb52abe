import { z } from "zod";
import { type Json, sameJson } from "../../json.ts";
import { LIMITS } from "../../limits.ts";
import { applySteps, invertSteps, type TextJson } from "../../text/index.ts";
import type { Lookup } from "../draft.ts";
import { idSchema, jsonSchema } from "../model.ts";
import { Clash, EditError, type EditKind, type Touch } from "./edit.ts";
import { pathSchema, valueAt, withValue } from "./set.ts";

export const textEditSchema = z.strictObject({
  type: z.literal("text"),
  node: idSchema,
  path: pathSchema,
  /** Steps of prosemirror-transform, in order. */
  steps: z.array(jsonSchema).min(1).max(2_000),
});
export type TextEdit = z.infer<typeof textEditSchema>;

/** The text at a place, or null where there is none. */
export function textAt(doc: Lookup, { node, path }: Touch): TextJson | null {
  const at = path && doc.find(node);
  const value = at ? valueAt(at.node.props, path) : undefined;
  if (typeof value !== "object" || value === null || !("type" in value)) return null;
  return value as unknown as TextJson;
}

function textOf(doc: Lookup, edit: TextEdit): TextJson {
  if (!doc.find(edit.node)) throw new EditError("missing", "The block with this text is gone.");
  const text = textAt(doc, edit);
  if (!text) throw new EditError("invalid", "There is no text here.");
  return text;
}

const fitting = <T>(work: () => T): T => {
  try {
    return work();
  } catch (error) {
    if (error instanceof EditError) throw error;
    throw new EditError(
      "invalid",
      `This change does not fit the text: ${(error as Error).message}`,
    );
  }
};

/** Two edits of one text, made one after another, as one; null where they are of different texts, or too much together. */
export function joinedText(first: TextEdit, second: TextEdit): TextEdit | null {
  const same = first.node === second.node && sameJson(first.path, second.path);
  const steps = [...first.steps, ...second.steps];
  return same && steps.length <= LIMITS.joinedSteps ? { ...first, steps } : null;
}

export const text: EditKind<TextEdit> = {
  schema: textEditSchema,
  apply(draft, edit) {
    const after = fitting(() => applySteps(textOf(draft, edit), edit.steps));
    const { props } = draft.find(edit.node)!.node;
    draft.setProps(edit.node, withValue(props, edit.path, after as unknown as Json));
  },
  invert(doc, edit) {
    const before = textOf(doc, edit);
    const steps = fitting(() => invertSteps(before, edit.steps));
    const { node, path } = edit;
    return steps ? { ...edit, steps } : { type: "set", node, path, value: before as never };
  },
  over(edit, past) {
    const steps = past.steps(edit);
    if (steps === "clash") return new Clash(edit);
    return steps.length ? { ...edit, steps: [...steps] } : null;
  },
  touches: ({ node, path }) => [{ node, path }],
};
