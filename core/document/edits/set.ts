import { z } from "zod";
import { isJsonObject, type Json, type JsonObject } from "../../json.ts";
import { find, replaceNode } from "../lookup.ts";
import { idSchema, jsonSchema } from "../model.ts";
import { EditError, type EditKind } from "./edit.ts";

/** The way to a property inside a node's props: names only, never an index. */
export const pathSchema = z
  .array(z.string().regex(/^[a-zA-Z][a-zA-Z0-9]{0,40}$/))
  .min(1)
  .max(6);

export const setSchema = z.strictObject({
  type: z.literal("set"),
  node: idSchema,
  path: pathSchema,
  /** Left out: the property is removed. */
  value: jsonSchema.optional(),
});
export type SetValue = z.infer<typeof setSchema>;

/** The value at a path, or undefined where the way ends. */
export function valueAt(props: JsonObject, path: readonly string[]): Json | undefined {
  let value: Json | undefined = props;
  for (const name of path) {
    if (!isJsonObject(value) || !Object.hasOwn(value, name)) return undefined;
    value = value[name];
  }
  return value;
}

/** The object with one property changed. Throws an EditError when the way leads through no object. */
export function withValue(
  props: JsonObject,
  path: readonly string[],
  value: Json | undefined,
): JsonObject {
  const [name, ...rest] = path as [string, ...string[]];
  if (rest.length > 0) {
    const inner = Object.hasOwn(props, name) ? props[name] : undefined;
    if (!isJsonObject(inner)) throw new EditError("invalid", "There is no such setting here.");
    return { ...props, [name]: withValue(inner, rest, value) };
  }
  if (value !== undefined) return { ...props, [name]: value };
  const { [name]: _gone, ...others } = props;
  return others;
}

export const set: EditKind<SetValue> = {
  schema: setSchema,
  apply(doc, edit) {
    if (!find(doc, edit.node)) throw new EditError("missing", "This is no longer in the email.");
    return replaceNode(doc, edit.node, (node) => ({
      ...node,
      props: withValue(node.props, edit.path, edit.value),
    }));
  },
  invert(doc, edit) {
    const at = find(doc, edit.node);
    if (!at) throw new EditError("missing", "This is no longer in the email.");
    const before = valueAt(at.node.props, edit.path);
    const { value: _value, ...rest } = edit;
    return before === undefined ? rest : { ...rest, value: before };
  },
  touches: (edit) => [{ node: edit.node, path: edit.path }],
};
