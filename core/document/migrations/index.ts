/** Documents and edits of older versions, brought to this one step by step. A new step is one file and one line. */
import { isJsonObject, type Json } from "../../json.ts";
import { SCHEMA_VERSION } from "../model.ts";
import type { Migration } from "./migration.ts";
import { to2 } from "./to-2.ts";
import { to3 } from "./to-3.ts";
import { to4 } from "./to-4.ts";
import { to5 } from "./to-5.ts";
import { to6 } from "./to-6.ts";

/** By the version they lead from. */
const STEPS: Record<number, Migration> = { 1: to2, 2: to3, 3: to4, 4: to5, 5: to6 };

function* stepsFrom(version: number): Generator<Migration> {
  for (let v = version; v < SCHEMA_VERSION; v++) {
    const step = STEPS[v];
    if (!step) throw new RangeError(`There is no way from version ${v}`);
    yield step;
  }
}

function node(step: Migration, before: Json): Json {
  if (!isJsonObject(before)) return before;
  const { type, props, children } = before;
  return {
    ...before,
    ...(typeof type === "string" && isJsonObject(props) && { props: step.props(type, props) }),
    ...(Array.isArray(children) && { children: children.map((child) => node(step, child)) }),
  };
}

/** A document's tree (JSON of any shape) of an older version as it is in this one. */
export const migrateTree = (root: Json, version: number): Json =>
  [...stepsFrom(version)].reduce((tree, step) => node(step, tree), root);

/** An edit (JSON) of an older version; `typeOf` gives the type of a node that is in the document. */
export function migrateEdit(
  edit: Json,
  version: number,
  typeOf: (node: string) => string | undefined,
): Json {
  const one = (step: Migration, before: Json): Json => {
    if (!isJsonObject(before)) return before;
    if (Array.isArray(before.edits)) {
      return { ...before, edits: before.edits.map((inner) => one(step, inner)) };
    }
    if (before.type === "insert") return { ...before, node: node(step, before.node ?? null) };
    if (before.type === "restore") return { ...before, root: node(step, before.root ?? null) };
    if (before.type !== "set" || !Array.isArray(before.path)) return before;
    const type = typeOf(String(before.node)) ?? "";
    const { path, value } = step.setting(type, before.path.map(String), before.value);
    return { ...before, path: [...path], ...(value !== undefined && { value }) };
  };
  return [...stepsFrom(version)].reduce((state, step) => one(step, state), edit);
}
