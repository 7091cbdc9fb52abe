import { z } from "zod";
import type { Json } from "../../json.ts";
import { applySteps, invertSteps, type TextJson } from "../../text/index.ts";
import { find, replaceNode } from "../lookup.ts";
import { type EmailDocument, idSchema, jsonSchema } from "../model.ts";
import { EditError, type EditKind } from "./edit.ts";
import { pathSchema, valueAt, withValue } from "./set.ts";

export const textEditSchema = z.strictObject({
  type: z.literal("text"),
  node: idSchema,
  path: pathSchema,
  /** Steps of prosemirror-transform, in order. */
  steps: z.array(jsonSchema).min(1).max(2_000),
});
export type TextEdit = z.infer<typeof textEditSchema>;

function textAt(doc: EmailDocument, edit: TextEdit): TextJson {
  const at = find(doc, edit.node);
  if (!at) throw new EditError("missing", "The block with this text is gone.");
  const value = valueAt(at.node.props, edit.path);
  if (typeof value !== "object" || value === null || !("type" in value)) {
    throw new EditError("invalid", "There is no text here.");
  }
  return value as unknown as TextJson;
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

export const text: EditKind<TextEdit> = {
  schema: textEditSchema,
  apply(doc, edit) {
    const after = fitting(() => applySteps(textAt(doc, edit), edit.steps));
    return replaceNode(doc, edit.node, (node) => ({
      ...node,
      props: withValue(node.props, edit.path, after as unknown as Json),
    }));
  },
  invert: (doc, edit) =>
    fitting(() => ({ ...edit, steps: invertSteps(textAt(doc, edit), edit.steps) })),
  touches: (edit) => [{ node: edit.node, path: edit.path }],
};
