import { z } from "zod";
import { isJsonObject, type Json, type JsonObject, sameJson } from "../../json.ts";
import { idSchema, jsonSchema } from "../model.ts";
import { Clash, EditError, type EditKind, holdsWords } from "./edit.ts";

/** The way to a property inside a node's props: names only, never an index. */
export const pathSchema = z
  .array(z.string().regex(/^[a-zA-Z][a-zA-Z0-9.-]{0,90}$/))
  .min(1)
  .max(6);

export const setSchema = z.strictObject({
  type: z.literal("set"),
  node: idSchema,
  path: pathSchema,
  /** Left out: the property is removed. */
  value: jsonSchema.optional(),
  /** Objects that are missing on the way are made: for what is kept by key, such as translations. */
  make: z.literal(true).optional(),
});
export type SetValue = z.infer<typeof setSchema>;

const own = (object: JsonObject, name: string): Json | undefined =>
  Object.hasOwn(object, name) ? object[name] : undefined;

/** The value at a path, or undefined where the way ends. */
export function valueAt(props: JsonObject, path: readonly string[]): Json | undefined {
  let value: Json | undefined = props;
  for (const name of path) {
    if (!isJsonObject(value)) return undefined;
    value = own(value, name);
  }
  return value;
}

/**
 * The object with one property changed; with `make`, objects missing on the way are made. Throws an
 * EditError when the way leads through no object.
 */
export function withValue(
  props: JsonObject,
  path: readonly string[],
  value: Json | undefined,
  make = false,
): JsonObject {
  const [name, ...rest] = path as [string, ...string[]];
  if (rest.length > 0) {
    const known = own(props, name);
    const inner = known === undefined && make ? {} : known;
    if (!isJsonObject(inner)) throw new EditError("invalid", "There is no such setting here.");
    return { ...props, [name]: withValue(inner, rest, value, make) };
  }
  if (value !== undefined) return { ...props, [name]: value };
  const { [name]: _gone, ...others } = props;
  return others;
}

/** How much of a path there is already: its length where the last but one is an object. */
function known(props: JsonObject, path: readonly string[]): readonly string[] {
  const at = path.findIndex((_, i) => i > 0 && valueAt(props, path.slice(0, i)) === undefined);
  return at < 0 ? path : path.slice(0, at);
}

/** An object of settings, each of which stands for itself; a value that names its kind is one value. */
const isSettings = (value: Json | undefined): value is JsonObject =>
  isJsonObject(value) && !Object.hasOwn(value, "type") && !Object.hasOwn(value, "kind");

/**
 * A value taken back from `wrote` to `back`, where `now` stands: what has been changed since stays. Gives
 * what is to stand there.
 */
function takenBack(
  wrote: Json | undefined,
  back: Json | undefined,
  now: Json | undefined,
): Json | undefined {
  if (sameOrBothMissing(wrote, now)) return back;
  if (!isSettings(now) || !isSettings(wrote)) return now;
  // What was not there at all before goes as far as nobody has put anything else into it.
  if (back !== undefined && !isSettings(back)) return now;
  const out: Record<string, Json> = {};
  for (const name of new Set([...Object.keys(now), ...Object.keys(back ?? {})])) {
    const value = takenBack(own(wrote, name), own(back ?? {}, name), own(now, name));
    if (value !== undefined) out[name] = value;
  }
  return out;
}
const sameOrBothMissing = (a: Json | undefined, b: Json | undefined): boolean =>
  a === b || (a !== undefined && b !== undefined && sameJson(a, b));

export const set: EditKind<SetValue> = {
  schema: setSchema,
  apply(draft, edit) {
    const node = draft.find(edit.node)?.node;
    if (!node) throw new EditError("missing", "This is no longer in the email.");
    draft.setProps(edit.node, withValue(node.props, edit.path, edit.value, edit.make));
  },
  invert(doc, edit) {
    const node = doc.find(edit.node)?.node;
    if (!node) throw new EditError("missing", "This is no longer in the email.");
    const { value: _value, make: _make, ...rest } = edit;
    const path = edit.make ? known(node.props, edit.path) : edit.path;
    const before = valueAt(node.props, path);
    return { ...rest, path: [...path], ...(before !== undefined && { value: before }) };
  },
  over(edit, past) {
    const { node, path, value } = edit;
    const lost = () => (holdsWords(value) ? new Clash({ node, path }) : null);
    const now = past.now.find(node)?.node.props;
    if (!now) return past.yields ? null : lost();
    try {
      withValue(now, path, value, edit.make);
    } catch {
      return past.yields ? null : lost();
    }
    if (!past.yields) return past.steps(edit) === "clash" ? new Clash({ node, path }) : edit;
    const wrote = past.before.find(node);
    const there = valueAt(now, path);
    const next = takenBack(wrote ? valueAt(wrote.node.props, path) : undefined, value, there);
    if (sameOrBothMissing(next, there)) return null;
    const { value: _value, ...rest } = edit;
    return next === undefined ? rest : { ...rest, value: next };
  },
  touches: ({ node, path }) => [{ node, path }],
};
